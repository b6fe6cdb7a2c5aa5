"""Each language's reader says the same of the same things."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.source.text import SourceText
from tests.conformance import javascript, python
from tests.conformance.concepts import CONCEPTS

_LANGUAGES = [python, javascript]


@pytest.mark.parametrize("language", _LANGUAGES, ids=lambda language: language.DIALECT.name)
def test_each_concept_has_its_snippet_but_for_what_a_language_does_not_have(language):
    assert list(language.SNIPPETS) == [name for name in CONCEPTS if name not in language.ABSENT]
    assert len(CONCEPTS) >= 60 and len(language.ABSENT) <= 3


@pytest.mark.parametrize(
    ("language", "name"),
    [(language, name) for language in _LANGUAGES for name in language.SNIPPETS],
    ids=lambda value: value if isinstance(value, str) else value.DIALECT.name,
)
def test_the_model_says_what_it_should(language, name):
    source = SourceText(Path(f"snippet{language.SUFFIX}"), language.SNIPPETS[name].encode())
    assert CONCEPTS[name](language.DIALECT.files.read(source))

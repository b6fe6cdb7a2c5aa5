"""Each language's reader says the same of the same things."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.source.text import SourceText
from tests.conformance import python
from tests.conformance.concepts import CONCEPTS

_LANGUAGES = [python]


@pytest.mark.parametrize("language", _LANGUAGES, ids=lambda language: language.DIALECT.name)
def test_each_concept_has_its_snippet(language):
    assert list(language.SNIPPETS) == list(CONCEPTS)
    assert len(CONCEPTS) >= 60


@pytest.mark.parametrize("language", _LANGUAGES, ids=lambda language: language.DIALECT.name)
@pytest.mark.parametrize("name", CONCEPTS)
def test_the_model_says_what_it_should(name, language):
    source = SourceText(Path(f"snippet{language.SUFFIX}"), language.SNIPPETS[name].encode())
    assert CONCEPTS[name](language.DIALECT.files.read(source))

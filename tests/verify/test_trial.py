"""Written tests are run elsewhere before anybody gets them."""

from __future__ import annotations

import pytest

from aedifex.languages.python import DIALECT
from aedifex.verify.trial import failing

KITE = "class Kite:\n    def pull(self, by):\n        print(by)\n        return by * 2\n"
GOOD = "from kite import Kite\n\n\ndef test_pull(capsys):\n    assert Kite().pull(3) == 6\n    assert capsys.readouterr().out == '3\\n'\n"


def fails(tmp_path, text: str, package: str = "") -> dict[str, str]:
    (tmp_path / "kite.py").write_text(KITE)
    return failing(tmp_path, package, "test_kite.py", text, DIALECT.runner)


def test_what_holds_holds_everywhere(tmp_path):
    assert fails(tmp_path, GOOD) == {}
    in_package = GOOD.replace("from kite", "from harbour.quay.kite")
    assert fails(tmp_path, in_package, "harbour.quay") == {}


@pytest.mark.parametrize(
    "test",
    [
        "assert Kite().pull(3) == 7",
        "raise SystemExit",
        "assert list({'ferry', 'tide', 'kite'}) == ['tide', 'kite', 'ferry']",
        "import time; assert time.localtime().tm_year == 2026 and time.localtime().tm_yday == 1",
        "import os; assert os.getcwd() == '<folder>'",
        "import random; assert random.random() < 0.5",
        "assert test_pull.__globals__.setdefault('seen', 0) == 0 and 'order' not in globals()",
    ],
)
def test_what_does_not_hold_is_told(tmp_path, test):
    text = GOOD + f"\n\ndef test_it():\n    {test}\n\n\ndef test_order():\n    globals()['order'] = 1\n"
    assert set(fails(tmp_path, text)) == {"test_it"}


def test_a_file_that_cannot_be_imported(tmp_path):
    assert "ImportError" in fails(tmp_path, "from kite import Quay\n")[""]
    assert "ModuleNotFoundError" in fails(tmp_path, GOOD, "harbour")[""]

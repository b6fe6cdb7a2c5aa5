"""The schema that ships with the package says what the reader says."""

from __future__ import annotations

import json
from importlib.resources import files

from aedifex.design.document import reading as design_file
from aedifex.design.document.design import STORES


def test_the_schema_knows_the_keys_that_the_reader_knows():
    schema = json.loads(files("aedifex.design.document").joinpath("design.schema.json").read_text("utf-8"))
    top = schema["properties"]
    plan, kind = (form["properties"] for form in top["class"]["items"]["oneOf"])
    assert set(top) == set(design_file._TOP)
    assert set(top["source"]["items"]["properties"]) == set(design_file._SOURCE)
    assert set(top["owner"]["properties"]) == set(design_file._OWNER)
    assert set(top["base"]["items"]["properties"]) == set(design_file._BASE)
    assert set(top["data"]["items"]["properties"]) == set(design_file._DATA)
    part = top["part"]["items"]["properties"]
    assert set(part) == set(design_file._PART)
    assert set(part["fields"]["items"]["properties"]) == set(design_file._RENAMED)
    assert set(plan) == set(design_file._CLASS)
    assert set(kind) == set(design_file._KIND)
    assert kind["store"]["enum"] == list(STORES)
    for form, methods in ((plan, design_file._METHOD), (kind, design_file._KIND_METHOD)):
        assert set(form["fields"]["items"]["properties"]) == set(design_file._FIELD)
        assert set(form["methods"]["items"]["properties"]) == set(methods)

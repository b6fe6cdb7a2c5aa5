"""The report page, the pictures and the tests that are written, from the shell."""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from html.parser import HTMLParser

import pytest

from aedifex.demo import copy_sample

_BROWSER = shutil.which("chromium") or shutil.which("chromium-browser") or shutil.which("google-chrome")
_VOID = {"meta", "img", "br"}


class Page(HTMLParser):
    """What a page has: its ids, links, headings, pictures, and whether all that is opened is closed."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.ids: list[str] = []
        self.links: list[str] = []
        self.sources: list[str] = []
        self.headings: list[int] = []
        self.alone: list[str] = []
        self.open: list[str] = []
        self.feed(text)

    def handle_starttag(self, tag, attributes):
        found = dict(attributes)
        if "id" in found:
            self.ids.append(found["id"])
        if "href" in found:
            self.links.append(found["href"])
        if "src" in found:
            self.sources.append(found["src"])
        if tag == "img":
            assert found.get("alt")
        if re.fullmatch(r"h\d", tag):
            self.headings.append(int(tag[1]))
        if tag not in _VOID:
            self.open.append(tag)

    def handle_endtag(self, tag):
        assert self.open.pop() == tag


@pytest.fixture(scope="module")
def gauge(tmp_path_factory, warm_command):
    folder = tmp_path_factory.mktemp("gauge")
    script, scenario = copy_sample("gauge", folder)
    design = f"{script.stem}.design.toml"
    for call in (
        ("draft", script.name),
        ("build", design, "--into", "built"),
        ("report", design, "-o", "page.html", "--scenario", scenario.name),
        ("tests", design, "--into", "built", "--scenario", scenario.name),
    ):
        done = warm_command.run(call, folder, seconds=120)
        assert done.returncode == 0, done.stderr
    return folder


def test_the_page_stands_alone(gauge):
    page = Page((gauge / "page.html").read_text())
    assert not page.open
    assert len(page.ids) == len(set(page.ids))
    assert all(link.startswith("#") and link[1:] in page.ids for link in page.links)
    assert all(source.startswith("data:") for source in page.sources)
    assert page.headings[0] == 1 and page.headings.count(1) == 1
    assert all(later - earlier <= 1 for earlier, later in zip(page.headings, page.headings[1:], strict=False))


def test_the_page_tells_all(gauge):
    text = (gauge / "page.html").read_text()
    for words in (
        "Same",
        "RainGauge",
        "Record",
        "glass.py",
        "record_days",
        "handle_answer",
        "lines of main code",
        "carve",
    ):
        assert words in text
    assert re.search(r"<b>\d\d → 1</b> lines of main code", text)
    assert re.search(r"<b>\d+ → 0</b> writable module variables", text)
    assert "prefers-color-scheme: dark" in text and "@media print" in text


def test_moved_lines_are_linked_both_ways(gauge):
    text = (gauge / "page.html").read_text()
    links = dict(re.findall(r'<tr id="([^"]+)"><td class="no"><a href="#([^"]+)"', text))
    back = [anchor for anchor, to in links.items() if anchor.startswith("before-") and links.get(to) == anchor]
    assert len(back) > 40


@pytest.mark.skipif(_BROWSER is None, reason="no browser here")
@pytest.mark.parametrize("size", ["1280,800", "390,844"])
def test_a_browser_opens_it_without_a_word(gauge, size, tmp_path):
    command = [
        _BROWSER,
        "--headless",
        "--no-sandbox",
        "--disable-gpu",
        f"--user-data-dir={tmp_path}",
        "--enable-logging=stderr",
    ]
    command += ["--v=0", f"--window-size={size}", "--dump-dom", (gauge / "page.html").as_uri()]
    done = subprocess.run(command, capture_output=True, text=True, check=False, timeout=120)
    assert "CONSOLE" not in done.stderr
    assert "handle_answer" in done.stdout and "</html>" in done.stdout


def test_the_written_tests_pass_and_see_a_mistake(gauge):
    command = [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", "built"]
    done = subprocess.run(command, cwd=gauge, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stdout
    record = gauge / "built" / "record.py"
    text = record.read_text()
    try:
        record.write_text(text.replace("self.total += rain", "self.total -= rain"))
        assert subprocess.run(command, cwd=gauge, capture_output=True, check=False).returncode == 1
    finally:
        record.write_text(text)


def test_the_written_tests_read_well(gauge):
    text = (gauge / "built" / "test_rain_gauge.py").read_text()
    assert "def test_record_update_days():" in text
    assert "    record = a_record(" in text
    assert 'main(io.StringIO("".join(f"{line}\\n" for line in typed)), out)' in text
    compile(text, "test_rain_gauge.py", "exec")


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (("survey", "rain_gauge.py", "--picture", "map.jpg"), "must end in .png or .svg"),
        (("draft", "rain_gauge.py", "-o", "-", "--picture", "map.jpg"), "must end in"),
        (("report", "rain_gauge.design.toml", "-o", "page.txt"), "must end in .html"),
        (("tests", "rain_gauge.design.toml"), "--into"),
    ],
)
def test_wrong_usage_is_said(gauge, cli, tmp_path, arguments, words):
    for path in gauge.glob("rain_gauge*"):
        shutil.copy(path, tmp_path)
    done = cli(*arguments)
    assert done.returncode == 2
    assert words in done.stderr


def test_tests_are_written_beside_a_result_that_is_there(gauge, cli, tmp_path):
    """Careless: tests that load what is not there, and fail each."""
    for path in gauge.glob("rain_gauge*"):
        shutil.copy(path, tmp_path)
    done = cli("tests", "rain_gauge.design.toml", "--into", "nowhere")
    assert done.returncode == 4 and "is not there" in done.stderr and "aedifex build" in done.stderr
    assert not (tmp_path / "nowhere").exists()


def test_pictures_are_written_where_they_are_asked_for(gauge, cli, tmp_path):
    shutil.copy(gauge / "rain_gauge.py", tmp_path)
    assert cli("survey", "rain_gauge.py", "--picture", "map.svg").returncode == 0
    assert cli("draft", "rain_gauge.py", "--picture", "classes.txt").returncode == 0
    assert "record_days" in (tmp_path / "map.svg").read_text()
    assert "| Record" in (tmp_path / "classes.txt").read_text()

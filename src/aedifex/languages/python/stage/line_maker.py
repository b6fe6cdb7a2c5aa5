"""Making one line for a question of a program, of what has been asked of such lines before."""

from __future__ import annotations

from _aedifex_stage.hearing import place_of

_NAMES = ("Ann", "Bo", "Ida", "kite")
ODD = ("", "x", "0", "-1", "2.5")
ODDLY = 0.05
_SMALL, _LARGE = 12, 100
_MOST_PARTS = 8


class Maker:
    """Makes one line for a place of the program, part by part."""

    def __init__(self, improviser: object, site: str, frame: object) -> None:
        self.improviser = improviser
        self.orders = improviser.orders
        self.chance = improviser.chance
        self.site = site
        self.frame = frame
        self.heard = improviser.heard_at(site)
        self.is_careful = bool(self.heard.ends) and not self.orders["is_bold"]

    def text(self, place: str) -> str:
        """What may stand at a place of the line, by what was asked of it."""
        heard, chance = self.heard, self.chance
        ways = []
        if place in heard.texts:
            ways += [self.known] * 3
        if f"{place}^" in heard.texts:
            ways += [self.begun] * 2
        if place in heard.split:
            ways += [self.parts] * 3
        if place in heard.numbers:
            ways += [self.number] * 4
        if any(each.startswith(f"{place}@") for each in (*heard.texts, *heard.numbers)):
            ways += [self.characters] * 2
        is_safe = not self.is_careful or not {self.number, self.characters, self.parts} & {*ways}
        if not ways or (is_safe and chance.random() < ODDLY):
            ways = [self.word] if self.is_careful else [self.word] * 3 + [self.odd]
        return chance.choice(ways)(place)

    def known(self, place: str) -> str:
        """A text that it is compared with; one that was typed less often sooner."""
        texts = self.heard.texts[place]
        some = self.chance.sample(texts, min(2, len(texts)))
        tried = self.improviser.tried
        text = min(some, key=lambda text: tried.get((self.site, place, text), 0))
        tried[self.site, place, text] = tried.get((self.site, place, text), 0) + 1
        return text

    def begun(self, place: str) -> str:
        """A text that begins as is asked for, and what is asked of the rest."""
        start = self.known(f"{place}^")
        return start + self.text(f"{place}+{len(start)}")

    def parts(self, place: str) -> str:
        """Several parts, as many as are asked for after the first, or about so many."""
        chance, separator = self.chance, self.heard.split[place]
        first = self.text(place_of(place, "", 0))
        least = self.heard.least.get(f"{place}/{first}", 1)
        if least > 1:
            count = least + (0 if self.is_careful else chance.choices((0, 1, -1), (18, 1, 1))[0])
        else:
            count = chance.choices((1, 2, 3, 4), (6, 3, 2, 1))[0]
        rest = [self.text(place_of(place, first, number)) for number in range(1, min(count, _MOST_PARTS))]
        return separator.join([first, *rest])

    def characters(self, place: str) -> str:
        """Some characters, each as is asked for; digits where one is to be a number, wherever it stands."""
        if any(each in self.heard.numbers for each in (f"{place}@*", f"{place}@-1")):
            return str(self.chance.randrange(10 ** self.chance.randint(1, 5)))
        places = [f"{place}@{number}" for number in range(_MOST_PARTS)]
        asked = [number for number, each in enumerate(places) if each in self.heard.texts or each in self.heard.numbers]
        letters = [text for text in (*self.orders["words"], *self.orders["choices"]) if len(text) == 1] or ["a", "b"]
        found = ""
        for number in range(max(asked, default=0) + 1):
            each = places[number]
            if each in self.heard.texts and self.chance.random() < 0.8:
                found += self.known(each)[:1]
            elif each in self.heard.numbers:
                found += str(self.chance.randint(0, 9))
            else:
                found += self.chance.choice(letters)
        rest = f"{place}+{len(found)}"
        return found + (self.text(rest) if rest in self.heard.texts or rest in self.heard.numbers else "")

    def number(self, place: str) -> str:
        """A number, or seldom none."""
        return self.chance.choice(ODD) if not self.is_careful and self.chance.random() < ODDLY else self.whole_number()

    def whole_number(self) -> str:
        """A whole number: a small one, one of the script's, or of what it knows at the moment; or one beside these."""
        chance, numbers, kind = self.chance, self.orders["numbers"], self.chance.random()
        if kind < 0.35:
            return str(chance.randint(0, _SMALL))
        if kind < 0.7 and numbers:
            return str(chance.choice(numbers) + chance.choice((0, 0, -1, 1)))
        if kind < 0.9 and (state := self.state()):
            return str(chance.choice(state) + chance.choice((0, 0, -1, 1)))
        return str(chance.randint(0, _LARGE))

    def state(self) -> list[int]:
        """The whole numbers that the program knows where it asks, and how many things there are."""
        found: list[int] = []
        frame = self.frame
        while frame is not None and frame.f_code.co_filename.startswith(self.improviser.folder):
            spaces = [frame.f_locals, frame.f_globals]
            owner = frame.f_locals.get("self")
            spaces += [vars(owner)] if hasattr(owner, "__dict__") else []
            for value in [value for space in spaces for value in space.values()]:
                if type(value) is int:
                    found.append(value)
                elif type(value) in (list, dict):
                    found.append(len(value))
            frame = frame.f_back
        return found

    def word(self, place: str) -> str:
        """Something where nothing is known of what is asked for: a word of the script, a name, a number."""
        chance, orders, kind = self.chance, self.orders, self.chance.random()
        words = orders["words"] or orders["choices"]
        if kind < 0.4 and words:
            return words[min(int(chance.expovariate(3 / len(words))), len(words) - 1)]
        if kind < 0.6 and orders["choices"]:
            return chance.choice(orders["choices"])
        return chance.choice(_NAMES) if kind < 0.85 else self.number(place)

    def odd(self, place: str) -> str:
        """Something that is seldom wanted."""
        return self.chance.choice(ODD)

"""Drafting a script that computes and talks as two classes: one that is silent, and a console as its owner."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from aedifex.design.document.design import ClassPlan, Design, FieldPlan, MethodPlan
from aedifex.design.drafting.naming import Names
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.talk import Talk
from aedifex.program.analysis.values import may_change_object
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function
from aedifex.program.structure.initial_values import InitialValues
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import function_obstacles, variable_obstacles
from aedifex.program.structure.shared_modules import replaceable
from aedifex.survey.words import words_of

_CONSOLE = "console"
_FEWEST_MEMBERS = 3


def draft_apart(program: Program, design: Design) -> Design | None:
    """A design with all state in a class that never talks, called as the owner of another design was.

    Its methods are the functions that are silent; what is silent in others can be carved out for it. None where the
    program does not read typed lines, or has hardly any state.
    """
    module = program.main
    main = MainCode.of(module)
    free = [symbol for symbol in main.fields if not variable_obstacles(module, symbol)]
    fields = InitialValues(module, free).settable
    names = Names(module, replaceable(program))
    console = module.dialect.naming.class_name([_CONSOLE])
    is_free = console != design.owner and names.class_name([_CONSOLE]) == console
    if not Talk.of(module).asks or not main.run or len(fields) < _FEWEST_MEMBERS or not is_free:
        return None
    naming, stem = module.dialect.naming, module.path.stem
    is_named_so = naming.class_name(words_of(stem)) == design.owner and module.dialect.rules.is_name(stem)
    noun = stem if is_named_so else naming.member_name(words_of(design.owner))
    instance = names.instance(noun, fields)
    if instance is None:
        return None
    file = module.path.name if is_named_so else names.file(noun)
    plan = ClassPlan(design.owner, file, instance, f"it computes and never talks: {console} asks and shows")
    for symbol in sorted(fields, key=lambda symbol: symbol.references[0].start):
        variable = program.spellings.get(symbol.name, symbol.name)
        plan.fields.append(FieldPlan(variable, naming.as_field(symbol.name)))
    for function in _silent_functions(module, fields):
        plan.methods.append(MethodPlan(function.name, function.name, why="it says nothing"))
    return Design(design.sources, console, [plan], kinds=design.kinds, parts=design.parts, data=design.data)


def _silent_functions(module: Module, fields: Collection[Symbol]) -> Iterator[Function]:
    """The functions that have to do with the fields, with no other state, and never talk."""
    main, talk, effects = MainCode.of(module), Talk.of(module), Effects.of(module)
    others = set(main.fields) - set(fields)
    for function in main.functions:
        touched = effects.transitive[function].touches
        is_own = not touched.isdisjoint(fields) and touched.isdisjoint(others)
        if is_own and function not in talk.routines and not function_obstacles(module, function):
            yield function


def is_named_by_its_fields(plan: ClassPlan) -> bool:
    """Whether several variables of a class have its name in theirs: the script knows the thing already."""
    words = set(words_of(plan.name))
    return sum(not words.isdisjoint(words_of(field.variable)) for field in plan.fields) > 1


class SilentClass:
    """The silent class of a design, as a program has it that has its members."""

    def __init__(self, made: Program, plan: ClassPlan) -> None:
        self.module = made.main
        self.plan = plan
        self.names = {field.name for field in plan.fields}
        rules = self.module.dialect.rules
        own = next(s for s in self.module.block.statements if s.defines is not None and s.defines.name == plan.name)
        functions = [f for f in self.module.all_functions if f.statement.block.owner is own]
        self.methods = [f for f in functions if not rules.is_constructor(f.name)]

    @property
    def idle(self) -> list[FieldPlan]:
        """The fields that none of its methods has to do with: whoever talks about them can have them."""
        used = {r.path[0].name for r in self._inside if r.path}
        return [field for field in self.plan.fields if field.name not in used]

    @property
    def is_worth_it(self) -> bool:
        """Whether it has state and behaviour enough, and at least half of the changes of its fields are in it."""
        if len(self.plan.fields) < _FEWEST_MEMBERS or len(self.methods) < _FEWEST_MEMBERS:
            return False
        inside = [r for r in self._inside if may_change_object(r, self.module)]
        outside = [r for r in self._outside if may_change_object(r, self.module)]
        return len(inside) >= len(outside)

    @property
    def _inside(self) -> list[Reference]:
        found = (r for method in self.methods for r in self.module.references_within(method.statement.span))
        return [r for r in found if r.path and r.path[0].name in self.names]

    @property
    def _outside(self) -> list[Reference]:
        found = (r for r in self.module.references if r.name == self.plan.instance)
        return [r for r in found if r.path and r.path[0].name in self.names]

"""What every language's reader must say of certain things, by the model alone.

A concept is a name, and a check of the model of a snippet in which that thing occurs. The snippets of a language keep to
the names that the checks look for: variables `a`, `b` and `c`, functions `f` and `g`, a class `K`, a parameter `p`.
"""

from __future__ import annotations

from collections.abc import Callable

from aedifex.program.analysis.definite_assignment import bound_before, certainly_assigns
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow, leaves
from aedifex.program.analysis.members import Members, Mentions, receiver_class
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Lambda, Leave, Role, Shape, Statement, call_of, final_name
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.state import Constants, is_state, is_used_in_routine, state

Check = Callable[[Module], bool]
CONCEPTS: dict[str, Check] = {}


def concept(name: str) -> Callable[[Check], Check]:
    """Note a check under the name of its concept."""

    def note(check: Check) -> Check:
        CONCEPTS[name] = check
        return check

    return note


def top(module: Module, name: str) -> Symbol:
    return module.scope.symbols[name]


def function(module: Module, name: str) -> Function:
    found = module.function(name)
    assert found is not None
    return found


def modes(symbol: Symbol) -> list[Mode]:
    return [r.mode for r in symbol.references]


def last(symbol: Symbol) -> Reference:
    return symbol.references[-1]


def klass(module: Module) -> Scope:
    return next(s for s in module.scope.walk() if s.kind is ScopeKind.CLASS and s.name == "K")


def members(module: Module) -> Members:
    return Members(Mentions(Program({module.path: module})), module, klass(module))


def statement(module: Module, kind: Kind) -> Statement:
    return next(s for s in module.walk() if s.kind is kind)


# -- binding


@concept("a value is given to a name")
def _(module):
    return modes(top(module, "a")) == [Mode.WRITE, Mode.READ] and is_state(top(module, "a"))


@concept("a value is given to two names at once")
def _(module):
    first = top(module, "a").references[0].statement
    return [p.target.name for p in first.assignment.pairs] == ["a", "b"]


@concept("one value is given to two names in a chain")
def _(module):
    first = top(module, "a").references[0].statement
    return top(module, "b").references[0].statement is first and len(first.assignment.targets) == 2


@concept("a list is taken apart into names")
def _(module):
    return {Mode.WRITE} == set(modes(top(module, "a"))) == set(modes(top(module, "b")))


@concept("a name is changed by what it holds")
def _(module):
    return modes(top(module, "a"))[1] is Mode.READ_WRITE and statement(module, Kind.UPDATE).assignment is not None


@concept("a name is declared with a type and without a value")
def _(module):
    return top(module, "a").references[0].mode is Mode.DECLARE


@concept("a declared type is known")
def _(module):
    first = top(module, "a").references[0].statement
    return module.source.slice(first.assignment.annotation) == "int"


@concept("a loop variable is bound by its loop")
def _(module):
    each = statement(module, Kind.EACH)
    return any(r.binds and r.name == "a" for r in each.references)


@concept("an imported name knows where it comes from")
def _(module):
    return top(module, "a").imported == ("m", "a")


@concept("an imported module knows that it is one")
def _(module):
    return top(module, "m").imported == ("m", None)


@concept("an import under another name")
def _(module):
    return top(module, "b").imported == ("m", "a")


@concept("a caught error has its name in the handler")
def _(module):
    handler = next(b for b in statement(module, Kind.GUARDED).blocks if b.role is Role.HANDLER)
    return any(r.name == "a" for s in handler.statements for r in s.references)


# -- scopes


@concept("a local variable is not the module's of the same name")
def _(module):
    inner = function(module, "f").scope.symbols["a"]
    return inner is not top(module, "a") and all(r.scope is inner.scope for r in inner.references)


@concept("a parameter hides the module's variable")
def _(module):
    return function(module, "f").parameters[0].reference.symbol is not top(module, "a")


@concept("a function reads the module's variable")
def _(module):
    return any(r.scope.routine is function(module, "f") for r in top(module, "a").references)


@concept("a function writes the module's variable")
def _(module):
    return top(module, "a") in Effects.of(module).direct[function(module, "f")].rebinds


@concept("an inner function reads a variable of the function around it")
def _(module):
    outer, inner = function(module, "f"), function(module, "f.g")
    return any(r.scope is inner.scope for r in outer.scope.symbols["a"].references)


@concept("an inner function writes a variable of the function around it")
def _(module):
    outer, inner = function(module, "f"), function(module, "f.g")
    return any(r.scope is inner.scope and r.mode.writes for r in outer.scope.symbols["a"].references)


@concept("methods do not see the names of their class")
def _(module):
    method = function(module, "K.f")
    used = next(r for r in method.scope.uses if r.name == "a")
    return used.symbol is top(module, "a") and klass(module).hides_from_inner


@concept("code of an inner function runs later")
def _(module):
    return function(module, "f").scope.is_apart_from(module.scope)


@concept("a name that nothing binds comes from outside")
def _(module):
    return "unheard_of" in module.outside.symbols


@concept("where a default is worked out")
def _(module):
    default = function(module, "f").parameters[0].default
    inside = [r for r in module.references if default.start <= r.start < default.end]
    return default is not None and [r.name for r in inside] == ["a"]


# -- what is done with objects


@concept("a member is read")
def _(module):
    used = last(top(module, "a"))
    return [step.name for step in used.path] == ["x"] and used.path_mode is Mode.READ


@concept("a member is set, which changes the object and not the name")
def _(module):
    used = last(top(module, "a"))
    return used.mode is Mode.READ and used.path_mode is Mode.WRITE and top(module, "a") in _changed(module)


@concept("a member of a member")
def _(module):
    return [step.name for step in last(top(module, "a")).path] == ["x", "y"]


@concept("an entry under a constant key")
def _(module):
    step = last(top(module, "a")).path[0]
    return step.kind is AccessKind.KEY and step.name == "x"


@concept("an entry at a constant place")
def _(module):
    return last(top(module, "a")).path[0].kind is AccessKind.POSITION


@concept("an entry at a place that varies")
def _(module):
    step = last(top(module, "a")).path[0]
    return step.kind is AccessKind.INDEX and step.name is None


@concept("a method that changes its object")
def _(module):
    return top(module, "a") in _changed(module)


@concept("a method that leaves its object as it is")
def _(module):
    return top(module, "a") not in _changed(module)


def _changed(module: Module) -> set[Symbol]:
    return Effects.of(module).of_statement(module.block.statements[-1]).changes


# -- calls


@concept("a call knows its callee and its arguments")
def _(module):
    call = call_of(last(top(module, "f")))
    return call is not None and len(call.arguments) == 2 and final_name(call.callee) == "f"


@concept("an argument by name")
def _(module):
    call = call_of(last(top(module, "f")))
    return call is not None and call.arguments[0].keyword == "p"


@concept("arguments out of a list")
def _(module):
    call = call_of(last(top(module, "f")))
    return call is not None and call.arguments[0].stars != ""


@concept("a call of a method")
def _(module):
    used = last(top(module, "a"))
    return used.path_mode is Mode.CALL and used.path[-1].name == "f"


@concept("a function that calls another")
def _(module):
    return function(module, "g") in Effects.of(module).calls[function(module, "f")]


@concept("a function that calls itself")
def _(module):
    return function(module, "f") in Effects.of(module).calls[function(module, "f")]


@concept("effects reach through calls")
def _(module):
    return top(module, "a") in Effects.of(module).transitive[function(module, "f")].rebinds


@concept("a function is handed on as a value")
def _(module):
    return function(module, "f") in Effects.of(module).escaping


@concept("a nameless function is handed on as a value")
def _(module):
    return any(isinstance(routine, Lambda) for routine in Effects.of(module).escaping)


@concept("a nameless function of one expression")
def _(module):
    routine = next(r for r in module.routines if isinstance(r, Lambda))
    return routine.expression is not None and module.source.slice(routine.expression) == "a"


@concept("a parameter that takes the rest")
def _(module):
    return function(module, "f").parameters[-1].kind.value == "rest"


# -- classes


@concept("a method knows its receiver")
def _(module):
    receiver = function(module, "K.f").receiver
    return receiver is not None and receiver_class(receiver) is klass(module)


@concept("the fields of a class")
def _(module):
    return members(module).fields == ["x"]


@concept("the constructor of a class")
def _(module):
    constructor = members(module).constructor
    return constructor is not None and constructor.is_method


@concept("a class that inherits")
def _(module):
    mentions = Mentions(Program({module.path: module}))
    return mentions.is_derived(klass(module))


@concept("an object is made")
def _(module):
    return [m.access.name for m in members(module).mentions("x") if not m.is_inside] == ["x"]


@concept("a method handed on without a call")
def _(module):
    return top(module, "a").references[-1].path_mode is Mode.READ


# -- control


@concept("a branch with an other side")
def _(module):
    return statement(module, Kind.BRANCH).has_otherwise


@concept("both sides of a branch give a name its value")
def _(module):
    return certainly_assigns(module.block.statements, top(module, "a"))


@concept("one side of a branch gives a name its value")
def _(module):
    return not certainly_assigns(module.block.statements[:1], top(module, "a"))


@concept("a chain of conditions")
def _(module):
    roles = [block.role for block in statement(module, Kind.BRANCH).blocks]
    return roles == [Role.BODY, Role.OTHER_CONDITION, Role.OTHERWISE]


@concept("a loop with a condition")
def _(module):
    return statement(module, Kind.LOOP).is_loop


@concept("a loop is left early")
def _(module):
    loop = statement(module, Kind.LOOP)
    return leaves(loop.blocks[0].statements) == {Leave.BREAK} and leaves([loop]) == set()


@concept("a round of a loop is cut short")
def _(module):
    return leaves(statement(module, Kind.LOOP).blocks[0].statements) == {Leave.CONTINUE}


@concept("a function is left early")
def _(module):
    return Leave.RETURN in leaves(function(module, "f").body.statements[:1])


@concept("what a return gives back")
def _(module):
    end = function(module, "f").body.statements[-1]
    return end.returned is not None and module.source.slice(end.returned) == "a"


@concept("an error is raised")
def _(module):
    return leaves(function(module, "f").body.statements) == {Leave.RAISE}


@concept("what is guarded may be left at any place")
def _(module):
    guarded = statement(module, Kind.GUARDED)
    before = Flow(module).live_before(guarded)
    return top(module, "a") in before


@concept("what is done at the end in any case")
def _(module):
    return statement(module, Kind.GUARDED).blocks[-1].role is Role.FINALLY


@concept("a choice by a value")
def _(module):
    return {block.role for block in statement(module, Kind.CHOICE).blocks} <= {Role.CASE, Role.OTHERWISE}


@concept("a name is live where it is read later")
def _(module):
    first = module.block.statements[0]
    flow = Flow(module)
    return top(module, "a") in flow.live_after(first) and top(module, "a") not in flow.live_before(first)


@concept("a name has a value before it is read")
def _(module):
    return bound_before(function(module, "f").body.statements[-1], function(module, "f").scope.symbols["a"])


@concept("values come one by one")
def _(module):
    return function(module, "f").is_generator and function(module, "f").is_postponed


@concept("a function that waits")
def _(module):
    return function(module, "f").is_async and Leave.AWAIT in leaves(function(module, "f").body.statements)


# -- state and values


@concept("a constant")
def _(module):
    return top(module, "a") in Constants.of(module)


@concept("a list that changes is no constant")
def _(module):
    return top(module, "a") not in Constants.of(module)


@concept("what is computed from constants is one")
def _(module):
    return top(module, "b") in Constants.of(module)


@concept("a table written out in place")
def _(module):
    value = top(module, "a").references[0].statement.assignment.pairs[0].value
    return value.shape is Shape.DISPLAY and [key for key, _ in value.entries] == ["x", "y"]


@concept("state that functions share")
def _(module):
    return [s.name for s in state(module)] == ["a"] and is_used_in_routine(top(module, "a"))


@concept("the loop is the run, what comes before is set-up")
def _(module):
    main = MainCode.of(module)
    return [s.kind for s in main.run] == [Kind.LOOP] and len(main.set_up) == 2


@concept("a text that stands alone")
def _(module):
    return function(module, "f").doc is not None


@concept("a comment knows what it says")
def _(module):
    return [c.text.strip() for c in module.comments] == ["the tide", "in feet"]

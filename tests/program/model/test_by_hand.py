"""What only other languages have: the model can hold it, and flow, effects and carving treat it rightly."""

from __future__ import annotations

from aedifex.moves.kit.control_exits import control_exits, steering
from aedifex.moves.kit.handover import Handover
from aedifex.program.analysis.definite_assignment import certainly_assigns
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow, leaves
from aedifex.program.model.names import ScopeKind
from aedifex.program.model.statements import Kind, Leave, Role
from tests.support.hand import Hand


def choice(*, falls_through: bool) -> tuple[Hand, list]:
    hand = Hand("switch (a) { case 1: b = 1; case 2: show(b); }")
    whole = hand.statement(hand.block, Kind.CHOICE, hand.text, reads=["a"], ends_at_break=True)
    one = hand.inner(whole, Role.CASE, falls_through=falls_through)
    first = hand.statement(one, Kind.ASSIGN, "b = 1", writes=["b"])
    two = hand.inner(whole, Role.CASE)
    second = hand.statement(two, Kind.EXPRESSION, "show(b)", reads=["b"])
    return hand, [whole, first, second]


def test_control_falls_through_into_the_next_case():
    hand, (_, first, _) = choice(falls_through=True)
    b = hand.scope.symbols["b"]
    assert b in Flow(hand.module).live_after(first)
    assert b not in Flow(hand.module).live_before(first)


def test_without_falling_through_the_next_case_sees_nothing():
    hand, (_, first, _) = choice(falls_through=False)
    assert hand.scope.symbols["b"] not in Flow(hand.module).live_after(first)


def test_a_break_leaves_the_choice_and_no_loop_around_it():
    hand = Hand("while (a) { switch (b) { case 1: break; } show(c); }")
    loop = hand.statement(hand.block, Kind.LOOP, hand.text, reads=["a"])
    body = hand.inner(loop, Role.BODY)
    whole = hand.statement(body, Kind.CHOICE, "switch (b) { case 1: break; }", reads=["b"], ends_at_break=True)
    leave = hand.statement(hand.inner(whole, Role.CASE), Kind.LEAVE, "break", leaves=[Leave.BREAK])
    after = hand.statement(body, Kind.EXPRESSION, "show(c)", reads=["c"])
    assert leaves([whole]) == set()
    assert leaves([leave]) == {Leave.BREAK}
    assert list(steering([whole])) == []
    c = hand.scope.symbols["c"]
    assert c in Flow(hand.module).live_before(leave)
    assert c in Flow(hand.module).live_before(after)


def labelled() -> tuple[Hand, list]:
    hand = Hand("outer: while (a) { while (b) { break outer; } c = 1; } show(c);")
    outer = hand.statement(
        hand.block, Kind.LOOP, "outer: while (a) { while (b) { break outer; } c = 1; }", label="outer"
    )
    body = hand.inner(outer, Role.BODY)
    inner = hand.statement(body, Kind.LOOP, "while (b) { break outer; }", reads=["b"])
    leave = hand.statement(
        hand.inner(inner, Role.BODY), Kind.LEAVE, "break outer", leaves=[Leave.BREAK], leaves_label="outer"
    )
    sets = hand.statement(body, Kind.ASSIGN, "c = 1", writes=["c"])
    shows = hand.statement(hand.block, Kind.EXPRESSION, "show(c)", reads=["c"])
    return hand, [outer, inner, leave, sets, shows]


def test_a_labelled_leave_leads_out_of_all_loops_inside_the_label():
    hand, (outer, inner, leave, *_) = labelled()
    assert leaves([inner]) == {Leave.BREAK}
    assert leaves([outer]) == set()
    c = hand.scope.symbols["c"]
    assert c in Flow(hand.module).live_before(leave)


def test_no_answer_stands_for_a_labelled_leave():
    hand, (_, inner, *_) = labelled()
    assert "label" in control_exits(hand.module, [inner], None).refusal


def test_the_body_of_a_loop_that_asks_at_its_end_runs_first():
    hand = Hand("do { a = f(); } while (a); show(a);")
    loop = hand.statement(hand.block, Kind.LOOP, "do { a = f(); } while (a);", reads=["a"], tests_last=True)
    body = hand.inner(loop, Role.BODY)
    sets = hand.statement(body, Kind.ASSIGN, "a = f()", writes=["a"])
    hand.statement(hand.block, Kind.EXPRESSION, "show(a)", reads=["a"])
    a = hand.scope.symbols["a"]
    assert certainly_assigns([loop], a)
    assert a not in Flow(hand.module).live_before(loop)
    assert a in Flow(hand.module).live_after(sets)


def test_a_loop_that_asks_first_may_never_run():
    hand = Hand("while (a) { a = f(); }")
    loop = hand.statement(hand.block, Kind.LOOP, hand.text, reads=["a"])
    hand.statement(hand.inner(loop, Role.BODY), Kind.ASSIGN, "a = f()", writes=["a"])
    a = hand.scope.symbols["a"]
    assert not certainly_assigns([loop], a)
    assert a in Flow(hand.module).live_before(loop)


def in_block() -> tuple[Hand, list]:
    hand = Hand("if (a) { let b = 1; show(b); } b;")
    branch = hand.statement(hand.block, Kind.BRANCH, "if (a) { let b = 1; show(b); }", reads=["a"])
    scope = hand.block_scope(hand.scope, "b")
    block = hand.inner(branch, Role.BODY, scope)
    sets = hand.statement(block, Kind.ASSIGN, "let b = 1", writes=["b"])
    shows = hand.statement(block, Kind.EXPRESSION, "show(b)", reads=["b"])
    hand.scope.symbols["a"].scope.kind = ScopeKind.MODULE
    return hand, [branch, sets, shows, scope]


def test_a_name_of_a_block_lives_in_it_alone():
    hand, (branch, sets, shows, scope) = in_block()
    b, flow = scope.symbols["b"], Flow(hand.module)
    assert scope.find("b") is b
    assert hand.scope.find("b") is None
    assert b in flow.live_after(sets)
    assert b not in flow.live_after(branch)
    assert b not in flow.live_before(sets)
    assert flow.outputs([sets]) == {b}
    assert flow.inputs([shows]) == {b}
    assert scope.frame is hand.scope


def test_what_is_carved_out_of_a_block_is_given_the_names_of_the_block():
    hand = Hand("function f() { if (a) { let b = 1; show(b); more(b); } }")
    defined = hand.statement(hand.block, Kind.ROUTINE, hand.text)
    function = hand.function(defined, "f")
    branch = hand.statement(function.body, Kind.BRANCH, "if (a) { let b = 1; show(b); more(b); }", reads=["a"])
    scope = hand.block_scope(function.scope, "b")
    block = hand.inner(branch, Role.BODY, scope)
    hand.statement(block, Kind.ASSIGN, "let b = 1", writes=["b"])
    shows = hand.statement(block, Kind.EXPRESSION, "show(b)", reads=["b"])
    hand.statement(block, Kind.EXPRESSION, "more(b)", reads=["b"])
    exits = control_exits(hand.module, [shows], function)
    handover = Handover(hand.module, function, [shows], frozenset(), exits)
    assert [symbol.name for symbol in handover.inputs] == ["b"]
    assert handover.outputs == []


def test_statements_inside_an_expression_belong_to_their_own_function():
    hand = Hand("on(() => { a = 1; return; }); show(a);")
    call = hand.statement(hand.block, Kind.EXPRESSION, "on(() => { a = 1; return; })")
    hand.statement(hand.block, Kind.EXPRESSION, "show(a)", reads=["a"])
    hand.at = 0
    nameless = hand.nameless(call)
    body = nameless.body
    sets = hand.statement(body, Kind.ASSIGN, "a = 1", writes=["a"])
    end = hand.statement(body, Kind.LEAVE, "return", leaves=[Leave.RETURN])
    assert leaves([call]) == set()
    assert list(call.walk()) == [call]
    assert sets in list(hand.module.walk())
    a = hand.scope.symbols["a"]
    assert Effects(hand.module).direct[nameless].rebinds == {a}
    assert nameless in Effects(hand.module).escaping
    assert a in Flow(hand.module, nameless).live_after(end) | Flow(hand.module, nameless).live_after(sets)


def test_what_a_library_finds_by_its_name_is_called_by_the_outside():
    hand = Hand("function draw() { a = 1; } a = 0;")
    defined = hand.statement(hand.block, Kind.ROUTINE, "function draw() { a = 1; }")
    hand.statement(hand.block, Kind.ASSIGN, "a = 0", writes=["a"])
    function = hand.function(defined, "draw")
    assert function not in Effects(hand.module).escaping
    function.is_called_from_outside = True
    assert function in Effects(hand.module).escaping

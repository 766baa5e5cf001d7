"""A run keeps the facts it was judged by: nothing edited later in the register can alter a signed number."""

import json

import pytest

from reckoner.shop.facts.judged import MeasuredEffects, RunFacts
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.register import completing
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import document, opening, signing
from reckoner.shop.runs.characterising import keep
from reckoner.shop.runs.document import FactsUnreadable
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load, measured_effects
from reckoner.shop.runs.recomputing import recompute
from reckoner.store.schema import CertificatePointRow, FactsDocument, Reference
from reckoner.store.terms import RegisterKind, RunKind
from tests.support.runs import TODAY, later, looked_over, prepared, read, read_all, ready, set_up, tool_id


def test_no_edit_of_the_register_alters_a_signed_or_an_open_run(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        signed = signing.sign(session, read_all(session, prepared(session, wanted, act), act, 0.99).id, later(act, 2))
        begun = read_all(session, prepared(session, tool_id(demo, "HC-0422"), act), act, 0.99)
        before = [judged(r).verdict for r in (signed, begun)]
        for run in (signed, begun):
            edit(session, RegisterKind.MODEL, run.tool.model_id, {"resolution": 5.0, "tolerance": 0.001}, later(act, 3))
        edit(session, RegisterKind.TOOL, wanted, {"number": "HC-9999", "rule_set": "iso-6789-2003"}, later(act, 3))
        edit(
            session, RegisterKind.REFERENCE, signed.reference.id, {"resolution": 1.0, "corrected": True}, later(act, 3)
        )
        meter = session.get_one(Reference, signed.reference.id)
        session.add(
            CertificatePointRow(
                certificate_id=meter.certificates[-1].id, torque=119.0, error=0.05, expanded_uncertainty=0.2
            )
        )
        session.flush()
        session.expire_all()
        after = [judged(load(session, r.id)).verdict for r in (signed, begun)]
        assert after == before
        assert load(session, signed.id).tool.number == "HC-0417"
        assert [r.otherwise for r in recompute(session) if r.otherwise] == []
        fresh = opening.open_run(session, tool_id(demo, "HC-0418"), later(act, 4))
        assert fresh.limit(40.0) == 0.001  # a run that begins afterwards goes by the register as it is now


def test_completing_the_model_at_the_start_leaves_signed_runs_as_they_were(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run = prepared(session, wanted, act)
        edit(session, RegisterKind.MODEL, run.tool.model_id, {"resolution": 0.0}, act)
        opening.give_up(session, run.id, "begun anew", act)
        run = signing.sign(session, read_all(session, prepared(session, wanted, act), act, 0.99).id, later(act, 2))
        completing.complete(session, wanted, completing.ModelFact.RESOLUTION, 1.0, later(act, 3))
        assert load(session, run.id).tool.kind.resolution == 0.0
        assert [r.otherwise for r in recompute(session) if r.otherwise] == []


def test_a_document_comes_back_as_it_was_written(demo, act):
    with demo.session() as session:
        for number in ("HC-0417", "HC-0318", "HC-0131"):
            run = looked_over(session, opening.open_run(session, tool_id(demo, number), act), act)
            best = candidates(session, run.tool, run.rules, TODAY)[0].reference
            for state in (run, set_up(session, run, best.id, act)):
                facts = state.facts
                assert document.read(document.write(facts)) == facts
        bare = RunFacts(run.tool, run.rules, facts.rules_text, MeasuredEffects(run.facts.measured.effects))
        assert document.read(document.write(bare)).reference is None


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda d: d.update(version=4), "its version is 4"),
        (lambda d: d.pop("tool"), "it lacks 'tool'"),
        (lambda d: d["tool"]["kind"].update(type="IV"), "kind.type"),
        (lambda d: d["rules"].update(text="no rules"), "it is not a TOML file"),
    ],
)
def test_a_document_that_cannot_be_read_is_said(demo, change, words):
    with demo.session() as session:
        text = session.query(FactsDocument).first().document
    raw = json.loads(text)
    change(raw)
    with pytest.raises(FactsUnreadable, match=words):
        document.read(json.dumps(raw))
    with pytest.raises(FactsUnreadable, match="or the database is damaged"):
        document.read(text[:100])


def test_the_newest_characterisation_of_the_tool_counts_before_that_of_its_model(demo, act):
    wanted, sibling = tool_id(demo, "HC-0417"), tool_id(demo, "HC-0418")
    with demo.session() as session:

        def characterised(tool, spread, hours, *, of_model):
            run = ready(session, tool, later(act, hours), RunKind.CHARACTERISE, effects=("loading_point",), readings=2)
            while run.current:
                value = 40.0 + (spread if run.current.place else 0.0)
                run = read(session, run, value, later(act, hours))
            keep(session, run, later(act, hours), of_model=of_model)
            opening.give_up(session, run.id, "kept by hand", later(act, hours))
            session.flush()

        tool = load(session, prepared(session, wanted, act).id).tool
        opening.give_up(session, opening.open_run_of(session, wanted), "only for its facts", act)
        assert measured_effects(session, tool).on is None
        characterised(sibling, 0.9, 1, of_model=True)
        assert measured_effects(session, tool).effects.loading_point.b == pytest.approx(0.9)
        characterised(wanted, 0.3, 3, of_model=False)
        assert measured_effects(session, tool).effects.loading_point.b == pytest.approx(0.3)
        characterised(wanted, 0.5, -30, of_model=False)  # the newest kept, though the clock had gone back
        characterised(sibling, 0.7, 5, of_model=True)
        found = measured_effects(session, tool)
        assert (found.effects.loading_point.b, found.of_model) == (pytest.approx(0.5), False)


def test_a_reference_is_weighed_from_its_least_fraction_of_range(demo, act):
    """Below 20 % of its range a meter does not judge, whatever its certificate covers."""
    from dataclasses import replace

    from reckoner.core.reference.certificate import CertificatePoint as Point
    from reckoner.shop.procedures import PROCEDURES

    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    points = (Point(1.0, 0.0, 0.002), Point(1000.0, 0.0, 0.002))
    for maximum, suits in ((200.0, True), (250.0, False), (1000.0, False)):
        meter = replace(run.reference, minimum=1.0, maximum=maximum, points=points)
        found = PROCEDURES[meter.kind].weigh(meter, run.tool, run.rules, TODAY, (40.0, 120.0, 200.0))
        assert found.suits is suits, maximum
        assert suits or "it judges from" in found.against[0]


def test_a_known_error_is_corrected_and_left_in_with_a_reason_it_counts(demo, act):
    """The meter reads 0.4 % high: X_r is the indication over 1.004; left in, W and the error must fit the quarter
    together."""
    from dataclasses import replace

    from reckoner.core.reference.certificate import CertificatePoint as Point
    from reckoner.core.reference.certificate import KnownError
    from reckoner.shop.procedures import PROCEDURES

    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    points = (Point(1.0, 0.004, 0.007), Point(300.0, 0.004, 0.007))
    meter = replace(run.reference, minimum=1.0, maximum=250.0, points=points, corrected=False, error_left="")
    left = replace(meter, error_left="its maker says so")
    assert [m.correction(120.0) for m in (meter, left)] == [pytest.approx(1.004), 1.0]
    assert left.correction(120.0, anyway=True) == pytest.approx(1.004)
    assert replace(meter, corrected=True).correction(120.0, anyway=True) == 1.0
    assert meter.correction(400.0) == 1.0
    worth = [(m.at(120.0).left, m.at(120.0).known) for m in (meter, left)]
    assert worth == [(0.0, KnownError.CORRECTED), (0.004, KnownError.COUNTED)]
    weighed = [PROCEDURES[m.kind].weigh(m, run.tool, run.rules, TODAY, (120.0,)) for m in (meter, left)]
    assert [found.suits for found in weighed] == [True, False]
    assert "its uncertainty with its error that is left in 1.10" in weighed[1].against[0].replace("\u202f", " ")

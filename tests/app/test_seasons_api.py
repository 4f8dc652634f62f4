"""Seasons of several competitions, arranged and changed by the coach: undo, flags, the original, tapers, contests, calendars."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord, Practice
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.seasons.models import CalendarEntry, Change, Competition, Entry, SeasonStyle
from jarvok.core.season.fitness_fatigue import LEAST_RESULTS

TODAY = date(2026, 11, 24)
MONDAY = date(2026, 11, 23)


def saturday(week: int) -> str:
    return (MONDAY + timedelta(days=7 * week - 2)).isoformat()


def add(coach, athlete: Athlete, name: str, day: str, **more: Any) -> Any:
    return coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": name, "day": day, **more})["season"]


def style(coach, athlete: Athlete, **body: Any) -> Any:
    return coach.send("PUT", f"athletes/{athlete.pk}/season/style", {"arrangement": "force_velocity", **body})


def undo(coach, athlete: Athlete) -> Any:
    return coach.ok("POST", f"athletes/{athlete.pk}/season/undo")["season"]


def plan_only(season: Any) -> Any:
    """What makes the plan, without the words about the last change."""
    return {k: v for k, v in season.items() if k != "drift"}


class TestSeveralCompetitions:
    def test_each_main_one_has_its_phases(self, coach, athlete, season) -> None:
        second = add(coach, athlete, "Late Open", saturday(34))
        assert {p["toward"] for p in second["phases"]} == {"Test Open", "Late Open"}
        assert second["name"] == "Test Open", "the next one leads"
        assert [c["rank"] for c in second["competitions"]] == ["main", "main"]
        week = coach.get(f"athletes/{athlete.pk}/week?start={second['phases'][-1]['start']}")["week"]
        assert week["competition"] == "Late Open"

    def test_a_rank_changes_what_is_prepared_for(self, coach, athlete, season) -> None:
        found = add(coach, athlete, "Club meet", saturday(8), rank="secondary")
        assert any(n["id"] == "secondary-Club meet" for n in found["notes"])
        meet = next(c for c in found["competitions"] if c["name"] == "Club meet")
        answer = coach.ok("PATCH", f"competitions/{meet['id']}", {"rank": "main"})
        main = answer["season"]
        assert {p["toward"] for p in main["phases"]} == {"Club meet", "Test Open"}
        assert "Club meet is main now" in answer["undo"]["words"]

    def test_a_meet_of_days_keeps_its_length_when_moved(self, coach, athlete, season) -> None:
        games = add(coach, athlete, "Games", saturday(30), last_day=str(date.fromisoformat(saturday(30)) + timedelta(days=2)))
        c = next(c for c in games["competitions"] if c["name"] == "Games")
        moved = coach.ok("PATCH", f"competitions/{c['id']}", {"day": saturday(31)})["season"]
        after = next(c for c in moved["competitions"] if c["name"] == "Games")
        assert date.fromisoformat(after["last_day"]) - date.fromisoformat(after["day"]) == timedelta(days=2)

    @pytest.mark.parametrize(("body", "where"), [
        ({"rank": "biggest"}, "rank"), ({"last_day": "2020-01-01"}, "last_day"), ({"weigh_in": "2027-08-01"}, "weigh_in"),
        ({"events": [{"kind": "juggling"}]}, "events"), ({"events": [{"kind": "bout", "load_kg": 9000}]}, "events"),
        ({"events": [{"kind": "bout"}] * 13}, "events"), ({"events": [{"kind": "bout", "contest_day": 40}]}, "events"),
    ])  # fmt: skip
    def test_what_cannot_be_is_refused_where_it_is(self, coach, athlete, body: dict[str, Any], where: str) -> None:
        answer = coach.send("POST", f"athletes/{athlete.pk}/competitions", {"name": "x", "day": saturday(20), **body})
        assert (answer.status_code, answer.json()["where"]) == (422, where)
        assert not Competition.objects.exists()

    @pytest.mark.parametrize("body", [{"rank": "biggest"}, {"name": " "}, {"last_day": "2020-01-01"}])
    def test_a_preview_refuses_what_adding_refuses(self, coach, athlete, body: dict[str, Any]) -> None:
        asked = {"name": "x", "day": saturday(20), **body}
        assert coach.send("POST", f"athletes/{athlete.pk}/competitions/preview", asked).status_code == 422

    def test_a_move_is_shown_before_it_is_made(self, coach, athlete, season) -> None:
        c = season["competitions"][0]
        body = {"name": c["name"], "day": saturday(10)}
        seen = coach.ok("POST", f"athletes/{athlete.pk}/competitions/preview?moves={c['id']}", body)
        assert "Base strength 8 weeks" in seen["before"]
        assert "Strength-speed is given up." in seen["decisions"]
        assert coach.get(f"athletes/{athlete.pk}/season")["season"]["days_to_go"] == 130

    def test_the_past_main_one_stays_part_of_the_running_season(self, coach, athlete, season, settings) -> None:
        add(coach, athlete, "Late Open", saturday(34))
        before = coach.get(f"athletes/{athlete.pk}/season")["season"]
        settings.TODAY = "2027-04-20"
        after = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert after["name"] == "Late Open"
        assert [p["start"] for p in after["phases"]] == [p["start"] for p in before["phases"]]
        late = date.fromisoformat(after["day"])
        assert all(late - timedelta(days=20) < date.fromisoformat(r["last_exposure"]) < late for r in after["residuals"])

    def test_a_name_is_used_once_in_a_year(self, coach, athlete, season) -> None:
        answer = coach.send("POST", f"athletes/{athlete.pk}/competitions", {"name": "Test Open", "day": saturday(30)})
        assert answer.status_code == 409
        assert "another name" in answer.json()["title"]


class TestForEverybody:
    @pytest.fixture
    def friend(self, squad) -> Athlete:
        return Athlete.objects.create(squad=squad, name="Bo Test", group="Light")

    def days(self) -> dict[str, date]:
        return {e.athlete.name: e.day for e in Entry.objects.filter(withdrawn_at__isnull=True) if e.name == "Team cup"}

    def test_it_is_added_moved_ranked_and_taken_out_for_the_squad(self, coach, athlete, season, friend) -> None:
        added = add(coach, athlete, "Team cup", saturday(30), scope="squad")
        assert set(self.days()) == {"Ada Test", "Bo Test"}
        c = next(c["id"] for c in added["competitions"] if c["name"] == "Team cup")
        coach.ok("PATCH", f"competitions/{c}", {"day": saturday(31), "scope": "squad"})
        assert set(self.days().values()) == {date.fromisoformat(saturday(31))}
        coach.ok("PATCH", f"competitions/{c}", {"rank": "secondary", "scope": "squad"})
        assert {x.rank for x in Entry.objects.all() if x.name == "Team cup"} == {"secondary"}
        coach.ok("DELETE", f"competitions/{c}?scope=squad")
        assert self.days() == {}

    def test_alone_it_leaves_the_others_alone(self, coach, athlete, season, friend) -> None:
        added = add(coach, athlete, "Team cup", saturday(30), scope="squad")
        c = next(c["id"] for c in added["competitions"] if c["name"] == "Team cup")
        coach.ok("PATCH", f"competitions/{c}", {"day": saturday(31)})
        assert self.days() == {"Ada Test": date.fromisoformat(saturday(31)), "Bo Test": date.fromisoformat(saturday(30))}

    def test_who_has_it_already_keeps_it_and_an_unknown_scope_is_refused(self, coach, athlete, season, friend) -> None:
        add(coach, friend, "Team cup", saturday(29))
        add(coach, athlete, "Team cup", saturday(30), scope="squad")
        assert self.days()["Bo Test"] == date.fromisoformat(saturday(29))
        body = {"name": "y", "day": saturday(33), "scope": "world"}
        assert coach.send("POST", f"athletes/{athlete.pk}/competitions", body).status_code == 422
        assert not Competition.objects.filter(name="y").exists()


class TestWhatNoLongerFits:
    def test_one_match_is_no_season(self, coach, athlete, squad) -> None:
        CalendarEntry.objects.create(squad=squad, kind="match", name="Friendly", start=date(2026, 12, 5), end=date(2026, 12, 5))
        assert coach.get(f"athletes/{athlete.pk}/season")["season"] is None
        assert coach.get("today")["athletes"] == 1
        assert coach.get(f"athletes/{athlete.pk}/week")["week"] is None

    def test_lengths_that_a_league_leaves_no_room_for_rest_and_are_said(self, coach, athlete, season, squad) -> None:
        c = season["competitions"][0]["id"]
        coach.ok("PUT", f"competitions/{c}/phases", {"weeks": {"base": 9}})
        for n in range(14):
            day = date(2026, 12, 5) + timedelta(weeks=n)
            CalendarEntry.objects.create(squad=squad, kind="match", name=f"Round {n}", start=day, end=day, planned_from=TODAY)
        found = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert "lengths-rest" in {n["id"] for n in found["notes"]}
        assert coach.get("today")["athletes"] == 1
        answer = coach.send("PUT", f"competitions/{c}/phases", {"weeks": {"base": 8}})
        assert answer.status_code == 422, "set anew it is refused in words"

    def test_matches_that_cannot_be_planned_hide_no_season(self, coach, athlete, season, squad) -> None:
        for day in (date(2028, 9, 1), date(2028, 9, 8), date(2028, 9, 15)):
            CalendarEntry.objects.create(squad=squad, kind="match", name="x", start=day, end=day, planned_from=TODAY)
        found = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert [w["volume"] for w in found["weeks"]][:19] == [w["volume"] for w in season["weeks"]]


class TestArranging:
    def test_by_another_arrangement_and_rhythm(self, coach, athlete, season) -> None:
        answer = style(coach, athlete, arrangement="linear", loading_weeks=2).json()
        found = answer["season"]
        assert [p["id"] for p in found["phases"]][-3:] == ["strength", "peak", "taper"]
        assert found["style"]["loading_weeks"] == 2
        assert "season model linear" in answer["undo"]["words"]

    def test_for_a_group_or_the_whole_squad(self, coach, athlete, season, squad) -> None:
        Athlete.objects.filter(pk=athlete.pk).update(group="Light")
        friend = Athlete.objects.create(squad=squad, name="Bo Test", group="Light")
        other = Athlete.objects.create(squad=squad, name="Cy Test", group="Heavy")
        style(coach, athlete, arrangement="block", scope="group")
        assert set(SeasonStyle.objects.filter(arrangement="block").values_list("athlete_id", flat=True)) == {
            athlete.pk,
            friend.pk,
        }
        style(coach, athlete, arrangement="concurrent", scope="squad")
        assert SeasonStyle.objects.get(athlete=other).arrangement == "concurrent"

    @pytest.mark.parametrize(("body", "where"), [
        ({"arrangement": "spiral"}, "arrangement"), ({"loading_weeks": 9}, "loading_weeks"), ({"scope": "everyone"}, "scope"),
        ({"taper": {"days": 2, "shape": "step", "depth_pct": 50, "frequency_pct": 100}}, "taper_days"),
        ({"taper": {"days": 10, "shape": "cliff", "depth_pct": 50, "frequency_pct": 100}}, "shape"),
    ])  # fmt: skip
    def test_what_cannot_be_is_refused(self, coach, athlete, season, body: dict[str, Any], where: str) -> None:
        answer = style(coach, athlete, **body)
        assert (answer.status_code, answer.json()["where"]) == (422, where)

    def test_an_easier_week_is_moved_made_and_given_back(self, coach, athlete, season) -> None:
        path = f"athletes/{athlete.pk}/season/easy"
        easy = [w for w in season["weeks"] if w["is_easy"]]
        to = season["weeks"][easy[0]["index"] + 1]["start"]
        moved = coach.ok("PUT", path, {"monday": easy[0]["start"], "to": to})["season"]
        assert [w["is_easy"] for w in moved["weeks"]][easy[0]["index"] :][:2] == [False, True]
        assert plan_only(undo(coach, athlete)) == plan_only(season)
        made = coach.ok("PUT", path, {"monday": season["weeks"][1]["start"], "easy": True})["season"]
        assert made["weeks"][1]["set_by_hand"]
        back = coach.ok("PUT", path, {"monday": season["weeks"][1]["start"]})["season"]
        assert back["weeks"] == season["weeks"]
        assert coach.send("PUT", path, {"monday": "2026-11-24"}).status_code == 422

    def test_every_arrangement_has_a_page_of_words(self, coach) -> None:
        pages = coach.get("arrangements")
        assert len(pages) == 7
        assert all(p["good_for"] and p["weakness"] and p["fatigue"] and p["phases"] for p in pages)


def test_twenty_undo_steps_restore_the_exact_plan(coach, athlete, season) -> None:
    c, steps = season["competitions"][0]["id"], [season]
    easy = season["weeks"][2]["start"]
    arrangements = ("linear", "block", "concurrent", "daily_doses", "strength_event", "high_low")
    acts: list[Any] = [lambda key=key: style(coach, athlete, arrangement=key).json()["season"] for key in arrangements]
    acts += [lambda day=day: coach.ok("PATCH", f"competitions/{c}", {"day": saturday(day)})["season"] for day in (20, 17, 24, 30)]
    acts += [lambda n=n: add(coach, athlete, f"Meet {n}", saturday(32 + 3 * n)) for n in range(3)]
    acts += [lambda: coach.ok("PUT", f"athletes/{athlete.pk}/season/easy", {"monday": easy, "easy": True})["season"]]
    acts += [lambda: coach.ok("PATCH", f"competitions/{c}", {"rank": "secondary"})["season"]]
    acts += [lambda: coach.ok("PATCH", f"competitions/{c}", {"name": "Another name"})["season"]]
    acts += [lambda: style(coach, athlete, arrangement="linear", loading_weeks=4).json()["season"]]
    acts += [lambda: coach.ok("PATCH", f"competitions/{c}", {"rank": "main"})["season"]]
    acts += [lambda: coach.ok("PUT", f"competitions/{c}/phases", {"weeks": {"strength": 6}})["season"]]
    acts += [lambda: coach.ok("DELETE", f"competitions/{c}")["season"]]
    assert len(acts) == 20
    for act in acts:
        steps.append(act())
        assert plan_only(steps[-1]) != plan_only(steps[-2]), "each step changes something"
    for expected in reversed(steps[:-1]):
        assert plan_only(undo(coach, athlete)) == plan_only(expected)
    assert Change.objects.filter(undone_at__isnull=False).count() == 20


class TestFlags:
    def flag(self, season: Any, check_id: str) -> Any:
        return next((f for f in season["flags"] if f["check_id"] == check_id), None)

    def test_one_is_kept_with_a_reason_and_asked_again(self, coach, athlete, season) -> None:
        close = add(coach, athlete, "Next week", saturday(20))
        flag = self.flag(close, "too-close")
        assert flag["severity"] == "think again"
        body = {"check_id": "too-close", "where": flag["where"], "reason": "the team needs both"}
        kept = self.flag(coach.ok("POST", f"athletes/{athlete.pk}/season/flags", body)["season"], "too-close")
        assert kept["kept_reason"] == "the team needs both"
        again = self.flag(coach.ok("DELETE", f"season-flags/{kept['kept_id']}")["season"], "too-close")
        assert again["kept_id"] is None
        assert coach.send("POST", f"athletes/{athlete.pk}/season/flags", {**body, "reason": " "}).status_code == 422

    def test_work_added_to_an_easier_week_is_said_and_taken_out(self, coach, athlete, season) -> None:
        monday = next(w["start"] for w in season["weeks"] if w["is_easy"])
        week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
        day = next(d["day"] for d in week["days"] if d["sheet"] and d["sheet"]["key"] == "A")
        coach.ok("PUT", f"athletes/{athlete.pk}/sessions/{day}/A/lines/A1", {"text": "6x3 @ 80 %"})
        flag = self.flag(coach.get(f"athletes/{athlete.pk}/season")["season"], "added-work")
        assert flag["severity"] == "caution"
        assert "11 main sets, 7 in the plan" in flag["reason"]
        proposed = {"kind": flag["fix"]["kind"], "values": flag["fix"]["values"]}
        fixed = coach.ok("POST", f"athletes/{athlete.pk}/season/fix", proposed)["season"]
        assert self.flag(fixed, "added-work") is None

    def test_the_same_sets_in_a_full_week_are_nobodys_business(self, coach, athlete, season) -> None:
        monday = next(w["start"] for w in season["weeks"][1:] if not w["is_easy"])
        week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
        day = next(d["day"] for d in week["days"] if d["sheet"] and d["sheet"]["key"] == "A")
        coach.ok("PUT", f"athletes/{athlete.pk}/sessions/{day}/A/lines/A1", {"text": "6x3 @ 80 %"})
        assert self.flag(coach.get(f"athletes/{athlete.pk}/season")["season"], "added-work") is None

    def test_far_from_the_class_refers_to_professionals(self, coach, athlete, season) -> None:
        BodyMass.objects.create(athlete=athlete, day=TODAY, mass_kg=66)
        flag = self.flag(coach.get(f"athletes/{athlete.pk}/season")["season"], "class-gap")
        assert "licensed professionals" in flag["reason"]
        assert flag["fix"] is None

    def test_after_a_break_the_week_is_repeated(self, coach, athlete, season) -> None:
        TrainingSession.objects.create(
            athlete=athlete, day=TODAY - timedelta(days=9), key="A", theme="", started_at="2026-11-15T10:00:00Z"
        )
        flag = self.flag(coach.get(f"athletes/{athlete.pk}/season")["season"], "break")
        assert "repeat the last week" in flag["reason"]


class TestTheOriginal:
    def test_what_moved_is_named_kept_or_restored(self, coach, athlete, season) -> None:
        c = season["competitions"][0]["id"]
        assert season["drift"]["words"] == []
        moved = coach.ok("PATCH", f"competitions/{c}", {"day": saturday(22)})["season"]
        assert "Test Open is 21 days later." in moved["drift"]["words"]
        back = coach.ok("POST", f"athletes/{athlete.pk}/season/original", {"keep": False})["season"]
        assert plan_only(back) == plan_only(season)
        assert undo(coach, athlete)["day"] == saturday(22), "going back is a change like any other"
        kept = coach.ok("POST", f"athletes/{athlete.pk}/season/original", {"keep": True})["season"]
        assert kept["drift"]["words"] == []

    def test_phases_arrangements_and_easier_weeks_are_named_too(self, coach, athlete, season) -> None:
        c = season["competitions"][0]["id"]
        changed = coach.ok("PUT", f"competitions/{c}/phases", {"weeks": {"base": 6}})["season"]
        assert "Base strength: 8 → 6 weeks." in changed["drift"]["words"]
        other = style(coach, athlete, arrangement="block").json()["season"]
        assert "Force–velocity progression was planned, block is." in other["drift"]["words"]


class TestTheBench:
    def bench(self, coach, athlete, *tapers: dict[str, Any], **more: Any) -> Any:
        return coach.send("POST", f"athletes/{athlete.pk}/taper-bench", {"tapers": list(tapers), **more})

    def test_three_tapers_stand_side_by_side_unasked(self, coach, athlete, season) -> None:
        found = self.bench(coach, athlete).json()
        assert len(found["tried"]) == 3
        first, second, _ = found["tried"]
        assert len(first["days"]) == len(first["against"]) == len(first["against_low"]) == 42
        assert first["difference"] is None
        assert second["difference_low"] <= second["difference"] <= second["difference_high"]
        assert "does not promise" in found["caution"]
        assert f"{LEAST_RESULTS} are needed" in found["fit_words"]
        assert found["au_a_set"]["result"] == "35.0 AU"

    def test_those_asked_for_are_tried_and_nothing_is_stored(self, coach, athlete, season) -> None:
        tapers = [{"days": d, "shape": "linear", "depth_pct": p, "frequency_pct": 100} for d, p in ((12, 50), (21, 80), (12, 30))]
        found = self.bench(coach, athlete, *tapers).json()["tried"]
        assert [t["taper"] for t in found] == tapers
        assert "21 days" in found[1]["remarks"][0]
        assert (found[1]["is_outside"], found[1]["difference"]) == (True, None)
        assert found[0]["real_cut_pct"] > found[2]["real_cut_pct"], "counted from the sessions each would leave"
        assert SeasonStyle.objects.filter(taper__isnull=False).count() == 0

    def test_practice_is_reckoned_when_it_is_asked_for(self, coach, athlete, season) -> None:
        out, half = (self.bench(coach, athlete, practice_left_pct=p).json() for p in (None, 50))
        assert sum(half["tried"][0]["load"]) > sum(out["tried"][0]["load"])
        assert self.bench(coach, athlete, practice_left_pct=101).status_code == 422

    def test_one_is_taken_over_into_the_season(self, coach, athlete, season) -> None:
        taper = {"days": 8, "shape": "step", "depth_pct": 75, "frequency_pct": 100}
        after = style(coach, athlete, taper=taper).json()["season"]
        assert after["style"]["taper"] == taper
        assert after["weeks"][-1]["volume"] < season["weeks"][-1]["volume"]
        assert self.bench(coach, athlete).json()["chosen"] == taper

    def test_enough_results_are_fitted_and_told(self, coach, athlete, season) -> None:
        for week in range(1, LEAST_RESULTS + 3):
            day = TODAY - timedelta(weeks=3 * week)
            MarkRecord.objects.create(
                athlete=athlete, exercise_id="countermovement_jump", kind="jump", day=day, measures={"height_cm": 30 + week % 3}
            )
        found = self.bench(coach, athlete, constants="own").json()
        assert f"{LEAST_RESULTS + 2} results" in found["fit_words"]

    def test_without_a_main_competition_there_is_none(self, coach, athlete) -> None:
        found = self.bench(coach, athlete).json()
        assert (found["day"], found["tried"]) == (None, [])
        assert coach.get(f"athletes/{athlete.pk}/contest")["competition_id"] is None


class TestTheContest:
    def test_events_are_staggered_back_from_the_day(self, coach, athlete, season) -> None:
        c = season["competitions"][0]["id"]
        events = [{"kind": "max_deadlift", "name": "Pull", "load_kg": 200}, {"kind": "timed_endurance", "name": "Bag"}]
        coach.ok("PATCH", f"competitions/{c}", {"events": events, "weigh_in": "2027-04-02"})
        found = coach.get(f"athletes/{athlete.pk}/contest")
        rows = {e["what"]: e for e in found["exposures"]}
        assert 16 <= rows["straight limit pull"]["days_out"] <= 19
        assert rows["straight limit pull"]["load_words"] == "190–200 kg"
        assert found["after"] == ["Pull: no pulling.", "Bag: short and light, at the pace."]
        assert "6 to 7 days" in found["last_session"]
        season = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert {e["event"] for e in season["exposures"]} == {"Pull", "Bag"}

    def test_without_events_it_asks_for_them(self, coach, athlete, season) -> None:
        found = coach.get(f"athletes/{athlete.pk}/contest")
        assert (found["exposures"], found["events"]) == ([], [])
        assert len(found["event_kinds"]) == 9


ICS = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//y//EN\r\n{}END:VCALENDAR\r\n"


def event(uid: str, name: str, day: str, *more: str) -> str:
    lines = [f"UID:{uid}", f"SUMMARY:{name}", f"DTSTART;VALUE=DATE:{day}", *more]
    return "BEGIN:VEVENT\r\n" + "\r\n".join(lines) + "\r\nEND:VEVENT\r\n"


class TestTheCalendar:
    def take_in(self, coach, athlete, *events: str, act: str = "import", **more: Any) -> Any:
        body = {"text": ICS.format("".join(events)), "scope": "squad", **more}
        return coach.ok("POST", f"athletes/{athlete.pk}/calendar/{act}", body)

    def test_an_entry_of_a_squad_a_group_or_one_athlete(self, coach, athlete, season, squad) -> None:
        friend = Athlete.objects.create(squad=squad, name="Bo Test", group="Heavy")
        path = f"athletes/{athlete.pk}/calendar"
        entry = {"kind": "camp", "name": "Bay camp", "start": "2026-12-14", "end": "2026-12-18"}
        coach.ok("POST", path, entry)
        coach.ok("POST", path, {**entry, "kind": "exams", "name": "Exams", "scope": "athlete"})
        assert [e["name"] for e in coach.get(path)["entries"]] == ["Bay camp", "Exams"]
        assert [e["name"] for e in coach.get(f"athletes/{friend.pk}/calendar")["entries"]] == ["Bay camp"]
        week = next(w for w in coach.get(f"athletes/{athlete.pk}/season")["season"]["weeks"] if w["start"] == "2026-12-14")
        assert "Bay camp" in week["note"]
        before = next(w for w in season["weeks"] if w["start"] == "2026-12-14")
        assert week["volume"] == pytest.approx(0.7 * before["volume"], abs=0.001)

    def test_taken_out_it_leaves_the_season(self, coach, athlete, season) -> None:
        path = f"athletes/{athlete.pk}/calendar"
        added = coach.ok("POST", path, {"kind": "holiday", "name": "Away", "start": "2026-12-14", "end": "2026-12-20"})
        assert coach.ok("DELETE", f"{path}/{added['entries'][0]['id']}")["entries"] == []
        assert coach.get(f"athletes/{athlete.pk}/season")["season"]["weeks"] == season["weeks"]

    @pytest.mark.parametrize(("body", "where"), [
        ({"kind": "party"}, "kind"), ({"name": ""}, "name"), ({"end": "2026-01-01"}, "end"), ({"scope": "all"}, "scope"),
        ({"kind": "match", "end": "2026-12-16"}, "end"), ({"end": "2027-12-16"}, "end"),
        ({"start": "2199-12-14", "end": "2199-12-15"}, "start"),
    ])  # fmt: skip
    def test_what_cannot_be_is_refused(self, coach, athlete, body: dict[str, Any], where: str) -> None:
        entry = {"kind": "camp", "name": "Bay camp", "start": "2026-12-14", "end": "2026-12-18", **body}
        answer = coach.send("POST", f"athletes/{athlete.pk}/calendar", entry)
        assert (answer.status_code, answer.json()["where"]) == (422, where)

    def test_a_league_makes_a_season(self, coach, athlete) -> None:
        events = [event(f"m{i}", "League match", f"2027{month}{day}") for i, (month, day) in enumerate(
            (("01", "09"), ("01", "16"), ("01", "23"), ("01", "27"), ("01", "30"), ("02", "06")))]  # fmt: skip
        self.take_in(coach, athlete, *events)
        season = coach.get(f"athletes/{athlete.pk}/season")["season"]
        assert season["name"] == "League match"
        assert season["phases"][-1]["key"] == "in_season"
        assert next(w for w in season["weeks"] if w["start"] == "2027-01-25")["matches"] == 2

    def test_nothing_is_stored_by_looking(self, coach, athlete) -> None:
        rows = self.take_in(coach, athlete, event("a", "Bay camp", "20261214"), act="preview")["rows"]
        assert [(r["kind"], r["status"]) for r in rows] == [("camp", "new")]
        assert not CalendarEntry.objects.exists()

    def test_an_update_of_the_same_event_does_not_duplicate(self, coach, athlete) -> None:
        self.take_in(coach, athlete, event("a", "Bay camp", "20261214"))
        again = self.take_in(coach, athlete, event("a", "Bay camp", "20261214"))
        assert [r["status"] for r in again["rows"]] == ["same"]
        moved = self.take_in(coach, athlete, event("a", "Bay camp", "20261221"))
        assert moved["rows"][0]["status"] == "changed"
        assert "14 Dec 2026" in moved["rows"][0]["words"]
        assert [e.start for e in CalendarEntry.objects.all()] == [date(2026, 12, 21)]

    def test_a_cancelled_one_is_taken_out(self, coach, athlete) -> None:
        self.take_in(coach, athlete, event("a", "Bay camp", "20261214"), event("c", "Bay Cup", "20270206"))
        self.take_in(
            coach,
            athlete,
            event("a", "Bay camp", "20261214", "STATUS:CANCELLED"),
            event("c", "Bay Cup", "20270206", "STATUS:CANCELLED"),
        )
        assert not CalendarEntry.objects.filter(withdrawn_at__isnull=True).exists()
        assert not Entry.objects.filter(withdrawn_at__isnull=True).exists()

    def test_a_competition_comes_to_everybody_and_moves_for_everybody(self, coach, athlete, squad) -> None:
        Athlete.objects.create(squad=squad, name="Bo Test")
        self.take_in(coach, athlete, event("c", "Bay Cup", "20270206"))
        assert (Competition.objects.count(), Entry.objects.count()) == (1, 2)
        self.take_in(coach, athlete, event("c", "Bay Cup", "20270213"))
        assert {c.day for c in (*Competition.objects.all(), *Entry.objects.all())} == {date(2027, 2, 13)}

    def test_the_coach_says_what_an_event_is_or_leaves_it(self, coach, athlete) -> None:
        rows = self.take_in(
            coach,
            athlete,
            event("a", "Dentist", "20261214"),
            event("b", "Bay week", "20261221"),
            kinds={"a": "skip", "b": "travel"},
        )["rows"]
        assert [(r["kind"], r["status"]) for r in rows] == [("skip", "skip"), ("travel", "new")]
        assert [e.kind for e in CalendarEntry.objects.all()] == ["travel"]

    def test_a_weekly_practice_becomes_one(self, coach, athlete, squad) -> None:
        before = Practice.objects.filter(squad=squad).count()
        weekly = (
            "BEGIN:VEVENT\r\nUID:p\r\nSUMMARY:Mat practice\r\nDTSTART:20261124T193000\r\nDURATION:PT75M\r\n"
            "RRULE:FREQ=WEEKLY;BYDAY=TU\r\nEND:VEVENT\r\n"
        )
        self.take_in(coach, athlete, weekly)
        self.take_in(coach, athlete, weekly)
        found = Practice.objects.filter(squad=squad, weekday=1, hour=19.5)
        assert (found.count(), found.get().minutes) == (1, 75)
        assert Practice.objects.filter(squad=squad).count() == before + 1

    def test_one_typed_by_hand_before_is_recognised(self, coach, athlete, season) -> None:
        self.take_in(coach, athlete, event("c", "Test Open", "20270410"))
        assert [(c.day, c.uid) for c in Competition.objects.all()] == [(date(2027, 4, 10), "c")]

    def test_a_competition_of_today_is_left_out_and_said(self, coach, athlete) -> None:
        rows = self.take_in(coach, athlete, event("c", "Bay Cup", "20261124"), event("d", "Bay camp", "20261214"))["rows"]
        assert [(r["status"], "not ahead" in r["words"]) for r in rows] == [("skip", True), ("new", False)]

    def test_what_is_no_calendar_is_refused_in_words(self, coach, athlete) -> None:
        answer = coach.send("POST", f"athletes/{athlete.pk}/calendar/preview", {"text": "hello"})
        assert answer.status_code == 422
        assert "not a calendar" in answer.json()["title"]

    def test_out_and_in_again_changes_nothing(self, coach, athlete, season) -> None:
        entry = {"kind": "camp", "name": "Bay camp", "start": "2026-12-14", "end": "2026-12-18"}
        coach.ok("POST", f"athletes/{athlete.pk}/calendar", entry)
        answer = coach.client.get(f"/api/export/athletes/{athlete.pk}/calendar.ics")
        assert answer["Content-Type"].startswith("text/calendar")
        text = answer.content.decode()
        rows = coach.ok("POST", f"athletes/{athlete.pk}/calendar/import", {"text": text, "scope": "squad"})["rows"]
        assert {r["status"] for r in rows} == {"same"}
        assert {r["kind"] for r in rows} == {"competition", "camp", "practice"}
        assert (Competition.objects.count(), CalendarEntry.objects.count()) == (1, 1)


def test_the_season_is_read_in_a_bounded_number_of_queries(coach, athlete, season, django_assert_max_num_queries) -> None:
    for n in range(4):
        add(coach, athlete, f"Meet {n}", saturday(24 + 5 * n), rank="train_through")
        CalendarEntry.objects.create(athlete=athlete, kind="camp", name="c", start=TODAY, end=TODAY)
    with django_assert_max_num_queries(36):
        coach.get(f"athletes/{athlete.pk}/season")


class TestBackFromALongBreak:
    def loads(self, coach, athlete, season) -> list[float]:
        monday = season["weeks"][1]["start"]
        week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
        sheet = next(d["sheet"] for d in week["days"] if d["sheet"])
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}/lines/A1"
        return coach.ok("PUT", path, {"text": "4 × 3 @ 80 %"})["lines"]

    def trained(self, athlete, days_ago: int) -> None:
        day = TODAY - timedelta(days=days_ago)
        TrainingSession.objects.create(athlete=athlete, day=day, key="A", theme="", started_at=f"{day}T10:00:00Z")

    def test_loads_begin_at_ninety_per_cent_and_the_working_says_so(self, coach, athlete, season) -> None:
        def first(lines: Any) -> Any:
            return next(x for x in lines if x["slot"] == "A1")["sets"][0]

        whole = first(self.loads(coach, athlete, season))
        self.trained(athlete, 40)
        reduced = first(self.loads(coach, athlete, season))
        assert reduced["wanted_kg"] == pytest.approx(0.9 * whole["wanted_kg"])
        assert any(i["name"] == "after a break" for i in reduced["working"]["inputs"])
        coach.ok("PUT", "settings/rules/max.return_pct", {"value": 100})
        assert first(self.loads(coach, athlete, season))["wanted_kg"] == whole["wanted_kg"]


class TestMissedSessions:
    def week(self, coach, athlete) -> Any:
        return coach.get(f"athletes/{athlete.pk}/week")["week"]

    @pytest.fixture
    def missed(self, coach, athlete, season, settings) -> Any:
        """The week of 7 December on its Thursday, with the first session not done."""
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-12-07")["week"]
        first = next(d["day"] for d in week["days"] if d["sheet"])
        settings.TODAY = str(date.fromisoformat(first) + timedelta(days=1))
        return self.week(coach, athlete)["missed"]

    def test_one_is_said_with_the_ways_on(self, missed) -> None:
        assert len(missed) == 1
        assert [o["choice"] for o in missed[0]["options"]][-1] == "skip"
        assert sum(o["is_proposed"] for o in missed[0]["options"]) <= 1

    def test_it_is_moved_to_the_day_proposed(self, coach, athlete, missed) -> None:
        m = missed[0]
        to = next(o["day"] for o in m["options"] if o["choice"] == "move")
        coach.ok("PUT", f"athletes/{athlete.pk}/sessions/{m['day']}/{m['key']}/day", {"day": to})
        week = self.week(coach, athlete)
        assert week["missed"] == []
        assert next(d for d in week["days"] if d["day"] == to)["sheet"]["key"] == m["key"]

    def test_its_main_lift_goes_into_the_next_session(self, coach, athlete, missed) -> None:
        m = missed[0]
        merge = next(o for o in m["options"] if o["choice"] == "merge")
        path = f"athletes/{athlete.pk}/sessions/{m['day']}/{m['key']}/merge"
        week = coach.ok("PUT", path, {"day": merge["day"]})["week"]
        sheet = next(d["sheet"] for d in week["days"] if d["day"] == merge["day"])
        line = next(x for x in sheet["lines"] if x["slot"] == "M1")
        assert line["reason"] == "main lift of a session that was missed"
        assert line["sets"][0]["load_kg"]
        assert week["missed"] == []
        lines = f"athletes/{athlete.pk}/sessions/{merge['day']}/{sheet['key']}/lines/M1"
        assert not any(x["slot"] == "M1" for x in coach.ok("PUT", lines, {"text": ""})["lines"]), "and can be taken out"

    def test_a_day_without_a_session_takes_none(self, coach, athlete, missed) -> None:
        m = missed[0]
        path = f"athletes/{athlete.pk}/sessions/{m['day']}/{m['key']}/merge"
        assert coach.send("PUT", path, {"day": m["day"]}).status_code == 422

    def test_left_out_it_is_not_asked_again(self, coach, athlete, missed) -> None:
        m = missed[0]
        body = {"check_id": "missed", "where": f"{m['day']}:{m['key']}", "reason": "left out"}
        coach.ok("POST", f"athletes/{athlete.pk}/season/flags", body)
        assert self.week(coach, athlete)["missed"] == []

    def test_a_week_to_come_has_none(self, coach, athlete, season) -> None:
        assert coach.get(f"athletes/{athlete.pk}/week?start=2026-12-14")["week"]["missed"] == []


class TestInSeasonAndLightWeeks:
    def test_sessions_stand_away_from_the_match(self, coach, athlete, squad) -> None:
        for n in range(8):
            day = date(2026, 12, 5) + timedelta(weeks=n)
            CalendarEntry.objects.create(squad=squad, kind="match", name=f"Round {n}", start=day, end=day, planned_from=TODAY)
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-12-14")["week"]
        days = {date.fromisoformat(d["day"]).weekday(): d["sheet"] for d in week["days"] if d["sheet"]}
        assert sorted(days) == [1, 3], "MD−4 and MD−2 of a match on Saturday"
        assert "MD−4: strength" in days[1]["day_reason"]
        assert week["phase"] == "in_season"

    def test_work_added_to_a_light_week_is_answered_beside_the_line(self, coach, athlete, season) -> None:
        monday = next(w["start"] for w in season["weeks"] if w["phase"] == "taper")
        week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
        sheet = next(d["sheet"] for d in week["days"] if d["sheet"])
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}/lines/A1"
        flags = coach.ok("PUT", path, {"text": "8x2 @ 85 %"})["flags"]
        added = next(f for f in flags if f["check_id"] == "added")
        assert added["severity"] == "caution"
        assert added["fix"]["words"].startswith("Write A1 as ")
        assert not any(f["check_id"] == "added" for f in coach.ok("PUT", path, {"text": ""})["flags"])


class TestMinutesPlayed:
    def matches(self, coach, athlete) -> list[int]:
        days = [date(2026, 11, 14) + timedelta(days=7 * n) for n in range(7)]
        rows = [{"kind": "match", "name": f"Match {d.day}", "start": str(d)} for d in days]
        for row in rows:
            coach.ok("POST", f"athletes/{athlete.pk}/calendar", row)
        return [e.pk for e in CalendarEntry.objects.filter(kind="match").order_by("start")]

    def test_who_hardly_plays_trains_the_day_after(self, coach, athlete) -> None:
        first, second, third, *_ = self.matches(coach, athlete)
        path = f"athletes/{athlete.pk}/calendar"
        assert "whole match" in coach.get(path)["played_words"]

        def days() -> list[str]:
            week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
            return [d["day"] for d in week["days"] if d["sheet"]]

        whole = days()
        coach.ok("PUT", f"{path}/{first}/minutes", {"minutes": 4})
        said = coach.ok("PUT", f"{path}/{second}/minutes", {"minutes": 8})
        assert said["played_words"].startswith("Plays 6 of 60 min")
        assert days() != whole
        assert coach.send("PUT", f"{path}/{third}/minutes", {"minutes": 4}).status_code == 422, "not played yet"
        assert coach.send("PUT", f"{path}/{second}/minutes", {"minutes": 400}).json()["where"] == "minutes"
        coach.ok("PUT", f"{path}/{first}/minutes", {"minutes": None})
        coach.ok("PUT", f"{path}/{second}/minutes", {"minutes": None})
        assert days() == whole


class TestFixesOfTheSeason:
    """One door: every fix a flag of the season proposes is done by its kind and values, and refused when it is none."""

    def fix(self, coach, athlete, kind: str, **values: Any) -> Any:
        return coach.ok("POST", f"athletes/{athlete.pk}/season/fix", {"kind": kind, "values": values})["season"]

    def test_a_week_is_made_easier(self, coach, athlete, season) -> None:
        monday = next(w["start"] for w in season["weeks"] if not w["is_easy"] and w["can_ease"] and w["index"] > 1)
        after = self.fix(coach, athlete, "easy_week", monday=monday, easy=True)
        assert next(w["is_easy"] for w in after["weeks"] if w["start"] == monday)

    def test_the_usual_taper_comes_back_and_the_rest_of_the_style_stays(self, coach, athlete, season) -> None:
        style = {"arrangement": "force_velocity", "loading_weeks": 2, "scope": "athlete",
                 "taper": {"days": 20, "shape": "step", "depth_pct": 20, "frequency_pct": 100}}  # fmt: skip
        coach.ok("PUT", f"athletes/{athlete.pk}/season/style", style)
        after = self.fix(coach, athlete, "taper", days=None)
        assert (after["style"]["loading_weeks"], after["style"]["taper"]) == (2, None)

    def test_days_are_marked_as_away(self, coach, athlete, season) -> None:
        self.fix(coach, athlete, "away", start="2026-12-07", end="2026-12-09")
        entries = coach.get(f"athletes/{athlete.pk}/calendar")["entries"]
        assert [(e["name"], e["start"], e["end"], e["whom"]) for e in entries] == [
            ("Away", "2026-12-07", "2026-12-09", "this athlete")
        ]

    def test_one_of_two_competitions_becomes_secondary(self, coach, athlete, season) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Second Open", "day": "2027-03-20"})
        after = self.fix(coach, athlete, "rank", name="Second Open", rank="secondary")
        assert next(c["rank"] for c in after["competitions"] if c["name"] == "Second Open") == "secondary"

    def test_one_phase_goes_back_to_its_length_and_the_other_stays_as_set(self, coach, athlete, season) -> None:
        lengths = {p["id"]: p["weeks"] for p in season["phases"]}
        pins = {"base": lengths["base"] - 1, "strength_speed": lengths["strength_speed"] + 1}
        coach.ok("PUT", f"competitions/{season['competitions'][0]['id']}/phases", {"weeks": pins})
        after = self.fix(coach, athlete, "unpin", toward="Test Open", phase="base")
        assert {p["id"]: p["pinned"] for p in after["phases"] if p["can_set_length"]} == {
            p["id"]: p["id"] == "strength_speed" for p in after["phases"] if p["can_set_length"]
        }

    @pytest.mark.parametrize(
        ("kind", "values", "said"),
        [("fly", {}, "no such fix"), ("easy_week", {"monday": "soon"}, "no day"), ("rank", {"name": "X"}, "no such competition")],
    )
    def test_what_is_no_fix_is_refused_in_words(self, coach, athlete, season, kind: str, values: Any, said: str) -> None:
        refused = coach.send("POST", f"athletes/{athlete.pk}/season/fix", {"kind": kind, "values": values})
        assert refused.status_code == 422
        assert said in refused.json()["title"]


class TestAPastedList:
    def test_every_line_becomes_an_entry_in_one_act(self, coach, athlete, season) -> None:
        from jarvok.app.facts.people.models import Act

        acts = Act.objects.count()
        text = "5 Dec Harbour home\n12.12.2026 Reef away\n2027-01-09 Coast cup"
        sent = {"kind": "match", "text": text, "scope": "squad"}
        seen = coach.ok("POST", f"athletes/{athlete.pk}/calendar/list", sent)
        assert [(e["name"], e["start"]) for e in seen["entries"]] == [
            ("Harbour home", "2026-12-05"),
            ("Reef away", "2026-12-12"),
            ("Coast cup", "2027-01-09"),
        ]
        assert Act.objects.count() == acts + 1

    def test_one_line_that_cannot_be_read_stores_none(self, coach, athlete, season) -> None:
        sent = {"kind": "match", "text": "5 Dec Harbour home\nReef away some day", "scope": "squad"}
        answer = coach.send("POST", f"athletes/{athlete.pk}/calendar/list", sent)
        assert answer.status_code == 422
        assert "line 2" in answer.json()["title"]
        two_days = {"kind": "match", "text": "5 Dec to 6 Dec Harbour home", "scope": "squad"}
        assert coach.send("POST", f"athletes/{athlete.pk}/calendar/list", two_days).status_code == 422
        assert coach.get(f"athletes/{athlete.pk}/calendar")["entries"] == []

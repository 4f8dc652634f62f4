"""The people of the demo: an invented centre on an invented coast. No name belongs to anybody."""

from __future__ import annotations

from dataclasses import dataclass

CENTRE = "Kittiwake Sound"


@dataclass(frozen=True)
class Person:
    name: str
    born: int
    years: float
    mass_kg: float
    strength: float  # share of the squad's usual strength
    body_class: str = ""
    limit_kg: float | None = None
    note: str = ""


WRESTLING = (
    Person("Ilka Brandvold", 2002, 6, 63.1, 1.06, "62 kg", 62, ""),
    Person("Noor Vasko", 2000, 7, 68.4, 1.10, "68 kg", 68, "captain"),
    Person("Tamsin Quill", 2004, 4, 57.2, 0.90, "57 kg", 57, ""),
    Person("Perrin Aldous", 1999, 8, 86.9, 1.45, "86 kg", 86, ""),
    Person("Ketil Oram", 2003, 5, 74.3, 1.25, "74 kg", 74, "overhead range restricted"),
    Person("Sunniva Dray", 2005, 3, 53.8, 0.82, "53 kg", 53, ""),
    Person("Oddny Farrow", 2009, 2, 59.0, 0.78, "59 kg", 59, "under 18: guardian and federation rules"),
    Person("Bastien Holm", 2001, 6, 97.5, 1.55, "97 kg", 97, "back after an ankle"),
)
HANDBALL = (
    Person("Odalys Merrin", 1998, 8, 74.0, 1.12, note="line player"),
    Person("Freya Kestle", 2000, 6, 70.2, 1.02, note="left back"),
    Person("Marit Solane", 2001, 5, 68.0, 0.98, note="centre back"),
    Person("Ines Halloran", 2003, 4, 66.5, 0.94, note="right wing"),
    Person("Juno Ravnsby", 1997, 9, 76.3, 1.15, note="goalkeeper"),
    Person("Liv Castellane", 2002, 4, 71.1, 1.00, note="right back"),
    Person("Petra Windham", 2004, 3, 64.8, 0.88, note="left wing"),
    Person("Saskia Thorne", 1999, 7, 72.9, 1.08, note="line player"),
    Person("Wren Ostrander", 2005, 2, 67.3, 0.84, note="centre back, first season"),
    Person("Dagny Pellar", 2000, 6, 73.5, 1.05, note="left back, many minutes"),
)
LIFTING = (
    Person("Rurik Salvesen", 1998, 9, 81.2, 1.50, "81 kg", 81, ""),
    Person("Maren Tolliver", 2001, 6, 63.7, 1.05, "64 kg", 64, ""),
    Person("Cato Brennick", 2003, 4, 88.6, 1.38, "89 kg", 89, "stuck in the snatch since summer"),
    Person("Yara Lindqvale", 2004, 3, 58.5, 0.90, "59 kg", 59, ""),
    Person("Emrys Dunmoor", 2000, 7, 102.0, 1.60, "102 kg", 102, ""),
)

# what is ticked of them
TRAITS: dict[str, tuple[str, ...]] = {
    "Noor Vasko": ("leg_attacks", "goal_grip"),
    "Perrin Aldous": ("upper_attacks", "past_weightlifter"),
    "Tamsin Quill": ("ground_work", "goal_pull_up"),
    "Odalys Merrin": ("contact_player",),
    "Saskia Thorne": ("contact_player", "goal_back"),
    "Juno Ravnsby": ("goalkeeper", "long_legs"),
    "Ines Halloran": ("wing_runner", "past_sprinter"),
    "Petra Windham": ("wing_runner",),
    "Freya Kestle": ("jump_thrower",),
    "Liv Castellane": ("jump_thrower", "goal_jump"),
    "Cato Brennick": ("long_legs",),
    "Emrys Dunmoor": ("short_legs", "past_thrower"),
}

LIFTING_AHEAD = ("Maren Tolliver", "Cato Brennick", "Emrys Dunmoor")  # those whose next competitions are set

# usual 1RM in kg of an athlete of strength 1.0, per lift
USUAL_KG: dict[str, float] = {
    "trap_bar_deadlift": 118.0,
    "bench_press": 62.0,
    "back_squat": 96.0,
    "prone_row": 62.0,
    "step_up": 34.0,
    "snatch": 58.0,
    "clean_and_jerk": 73.0,
    "front_squat": 88.0,
    "snatch_pull": 70.0,
}

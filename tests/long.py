"""Tests that are left out unless ``--all`` is given, and which shorter one holds the same law meanwhile.

Patterns are matched from the start of a test's id. What is listed here is run by ``./sitter test --all``:
lots, siege, every sitter, every case of the bench, every school, machines that are lost.
"""

from __future__ import annotations

LONG: dict[str, str] = {
    r"tests/bench/test_cases\.py::test_a_case_is_measured\[(?!light\]|strings\])": "light and strings",
    r"tests/siege/test_short\.py::(?!test_six_windows|test_what_may_not_happen_does_not\[guessing)": (
        "six windows, one attack"
    ),
    r"tests/siege/test_pictures\.py::.*whole_program\[(?![0-2]\])": "the first three",
    r"tests/truth/test_easel_truth\.py::test_corners_.*\[(?!maren|ines)": "maren and ines",
    r"tests/truth/test_easel_truth\.py::test_a_faultless_painting.*\[(?!tobias)": "tobias",
    r"tests/truth/test_easel_truth\.py::test_planted_faults.*\[all": "two sitters",
    r"tests/truth/test_easel_truth\.py::test_a_bare_ground_is_found": "corners of a begun canvas",
    r"tests/truth/test_easel_truth\.py::test_the_lamp_is_taken_out": "light from plan, one white and three",
    r"tests/truth/test_easel_truth\.py::test_a_place_worked_too_far.*\[(?!maren)": "maren",
    r"tests/truth/test_easel_truth\.py::test_(gloss_is_left|features_painted|another_picture|free_work|a_card_lets)": (
        "planted faults, faultless paintings"
    ),
    r"tests/truth/test_sitters\.py::test_.*(drawn_by_lot|in_a_room)": (
        "the sitters as they are, and a mirrored noisy copy"
    ),
    r"tests/truth/test_stability_truth\.py::.*\[(?!tobias)": "tobias",
    r"tests/truth/test_light_truth\.py::test_the_light_in_rooms": "the light as it is, and relit",
    r"tests/truth/test_hair_truth\.py::test_(roots_are_told_from_tips_in_rooms|six_guides)": (
        "the hair as it is"
    ),
    r"tests/core/test_results\.py::test_a_computation_reads_only_what_it_declares\[(?!\{\}|\{'(flesh|hair|passes)': \{'m)": (
        "without a change and with a few"
    ),
    r"tests/core/test_results\.py::test_equal_keys_mean_equal_results\[[1-9]": "one draw",
    r"tests/core/test_easel_parts\.py::test_a_usual_fault_is_named": "ten rules on a made head",
    r"tests/core/test_easel_remedies\.py::test_(remedies_mend_what|a_canvas_as_planned_gives)": (
        "what is there drops out"
    ),
    r"tests/core/test_lines_and_seams\.py::test_every_border.*\[(?!direct-oil|watercolour-zones)": (
        "two schools"
    ),
    r"tests/core/test_every_school\.py::test_(a_sitter_in_a_mirror|equal_inputs)": (
        "wet paint and error of every school"
    ),
    r"tests/core/test_passes\.py::test_the_(plan_brings|passes_keep).*\[(?!maren)": "maren",
    r"tests/formats/test_thin_layers\.py::test_no(r_in_a_room|_sheet_tells.*\[(?!maren))": "maren",
    r"tests/web/test_school\.py::test_every_school_is_planned": "every school in the core",
    r"tests/e2e/test_passes\.py::test_each_school_can_be_chosen": (
        "every school in the core, two in the browser"
    ),
    r"tests/cli/test_crowds\.py::test_a_(lost_worker|server_goes_on)": "the same plan wherever it is made",
    r"tests/cli/test_easel_commands\.py::test_a_planted_fault": "planted faults by the core",
    r"tests/core/test_schedule\.py::test_a_detailed_watercolour": "minutes and shares add up",
    r"tests/web/test_log\.py::test_a_film": "the film's file in formats",
}  # fmt: skip

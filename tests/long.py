"""Tests that are left out unless ``--all`` is given, and which shorter one holds the same law meanwhile.

Patterns are matched from the start of a test's id. What is listed here is run by ``./sitter test --all``:
lots, siege, every sitter, every case of the bench, every school, machines that are lost.
"""

from __future__ import annotations

LONG: dict[str, str] = {
    r"tests/bench/test_cases\.py::test_(memory_is|a_case_is_measured\[(?!strings\]))": "strings",
    r"tests/siege/test_short\.py::(?!test_six_windows)": "six windows; attacks one by one in web",
    r"tests/siege/test_pictures\.py::.*whole_program\[(?![01]\])": "the first two",
    r"tests/truth/test_easel_truth\.py::test_corners_.*\[(?!maren)": "maren",
    r"tests/truth/test_easel_truth\.py::test_a_faultless_painting.*\[(?!tobias)": "tobias",
    r"tests/truth/test_easel_truth\.py::test_planted_faults.*\[all": "two sitters",
    r"tests/truth/test_easel_truth\.py::test_a_bare_ground_is_found": "corners of a begun canvas",
    r"tests/truth/test_easel_truth\.py::test_the_lamp_is_taken_out": "light from plan, one white and three",
    r"tests/truth/test_easel_truth\.py::test_(gloss_is_left|features_painted|another_picture|free_work|a_card_lets)": (
        "planted faults, faultless paintings"
    ),
    r"tests/truth/test_sitters\.py::test_.*(drawn_by_lot|in_a_room)": (
        "the sitters as they are, and a mirrored noisy copy"
    ),
    r"tests/truth/test_light_truth\.py::test_the_light_in_rooms": "the light as it is, and relit",
    r"tests/truth/test_hair_truth\.py::test_(roots_are_told_from_tips_in_rooms|six_guides)": (
        "the hair as it is"
    ),
    r"tests/core/graph/test_results\.py::test_equal_keys_mean_equal_results\[[1-9]": "one draw",
    r"tests/core/easel/test_planted_faults\.py::test_a_usual_fault_is_named": "ten rules on a made head",
    r"tests/core/easel/test_easel_remedies\.py::test_(remedies_mend_what|a_canvas_as_planned_gives)": (
        "what is there drops out"
    ),
    r"tests/core/plan/test_seams\.py::test_every_border.*\[(?!direct-oil|watercolour-zones)": (
        "two schools"
    ),
    r"tests/core/plan/test_every_school\.py::test_(a_sitter_in_a_mirror|equal_inputs)": (
        "wet paint and error of every school"
    ),
    r"tests/core/plan/test_passes\.py::test_the_(plan_brings|passes_keep).*\[(?!maren)": "maren",
    r"tests/formats/test_thin_layers\.py::test_no(r_in_a_room|_sheet_tells.*\[(?!maren))": "maren",
    r"tests/web/test_school\.py::test_every_school_is_planned": "every school in the core",
    r"tests/e2e/test_passes\.py::test_each_school_can_be_chosen": (
        "every school in the core, two in the browser"
    ),
    r"tests/cli/test_crowds\.py::test_a_(lost_worker|server_goes_on)": "the same plan wherever it is made",
    r"tests/cli/test_easel_commands\.py::test_a_planted_fault": "planted faults by the core",
    r"tests/core/plan/test_schedule\.py::test_a_detailed_watercolour": "minutes and shares add up",
    r"tests/web/test_log\.py::test_a_film": "the film's file in formats",
    r"tests/truth/test_easel_truth\.py::test_(a_place_worked_too_far|drawing_is_told)": "planted faults",
    r"tests/truth/test_sitters\.py::test_six_strokes.*\[(?!tobias)": "tobias",
    r"tests/truth/test_sitters\.py::test_a_painted_top.*\[(?!maren)": "maren",
    r"tests/truth/test_condition_truth\.py::test_(a_strong_cast|nothing_is_wrong).*\[(?!selda|orsolya)": (
        "two sitters"
    ),
    r"tests/truth/test_framing_truth\.py::.*\[(?!maren|hedda)": "two sitters",
    r"tests/truth/test_hair_truth\.py::test_roots_are_told_from_tips.*\[(?!tobias|ines)": "two sitters",
    r"tests/truth/test_light_truth\.py::test_(a_flash|of_two_nearly).*\[(?!selda|tobias)": "two sitters",
    r"tests/e2e/test_rack\.py::test_an_own_tube": "own tubes by the route, marks read in the browser",
    r"tests/e2e/test_studio\.py::test_a_phone": "sections and takes by the route",
    r"tests/e2e/test_flesh\.py::test_a_plan_in_one_sitting": "schedule and taking off by the route",
    r"tests/e2e/test_passes\.py::test_a_switch_moves": "switches by the route",
    r"tests/e2e/test_passes\.py::test_a_pass_of_ones_own_school": "own schools by the route",
    r"tests/e2e/test_light\.py::test_every_list_shows": "one list in each",
    r"tests/cli/test_crowds\.py::test_(a_wrong_address|a_server_with)": "the same bytes wherever they are made",
    r"tests/cli/test_cli\.py::test_a_whole_plan_from_another": "the same bytes wherever they are made",
    r"tests/cli/test_mutation\.py::test_a_change_is_noticed.*\[unchanged": "a change that is noticed",
    r"tests/web/test_queue\.py::test_(leaving_is_seen|processes_end)": "a process that dies",
    r"tests/web/test_door\.py::test_(cookies_of_others|no_header)": "nothing is answered before coming in",
    r"tests/web/test_easel\.py::test_pictures_are_others.*\[change[1-9]": "one change",
    r"tests/web/test_easel\.py::test_the_simulated_camera": "the camera in the browser",
    r"tests/web/test_school\.py::test_the_kit_and_the_files": "kit and files in core and formats",
    r"tests/web/test_schema\.py::test_no_call.*\[(?!.*(passes|flesh|tubes|library|light))": (
        "a third of the routes"
    ),
    r"tests/core/easel/test_easel_remedies\.py::test_(watercolour_darkened|planning_again|a_transparent)": (
        "the first remedy in oil"
    ),
    r"tests/core/plan/test_every_school\.py::test_nothing_goes_over.*\[(?!maren|tobias)": "two sitters",
    r"tests/core/drills/test_drill_levels\.py::test_a_known_threshold.*\[(?!0.4)": "one threshold",
    r"tests/core/drills/test_drills\.py::test_hair_grows": "every sitter gives every drill",
    r"tests/core/graph/test_results\.py::test_a_computation_reads.*\[\{'": "without a change",
    r"tests/core/plan/test_schedule\.py::test_minutes_and_shares": "everything is painted once",
    r"tests/core/sitter/test_drawn_regions\.py::test_the_inside": "a hat is where it was drawn",
    r"tests/formats/test_book\.py::test_the_book_has.*\[watercolour": "the book of oil",
    r"tests/formats/test_print\.py::test_nothing_printed.*\[(?!.*A4)": "A4",
    r"tests/store/test_start\.py::test_a_database_that.*\[(?!garbage)": "one that is garbage",
    r"tests/truth/test_stability_truth\.py": "regions on a mirrored, darker, noisier copy",
}  # fmt: skip

//! What a click, a drag or a key does, found by role and label as somebody finds it who does not see the screen.

mod common;

use std::collections::BTreeSet;

use eframe::egui::accesskit::Role;
use eframe::egui::{Key, Modifiers, Pos2, Vec2, pos2, vec2};
use egui_kittest::Harness;
use egui_kittest::kittest::Queryable;
use wumple::{Event, JumpedFrom, demo};
use wumple_window::view::Tool;
use wumple_window::{Desk, Source, Window};

use crate::common::{desk, desk_in};

/// A window whose frames take so long, s.
fn window_of(desk: Desk, frame: f32, size: Vec2) -> Harness<'static, Window> {
    let mut harness = Harness::builder()
        .with_size(size)
        .with_step_dt(frame)
        .build_ui_state(|ui, window: &mut Window| window.ui(ui), Window::new(desk));
    // What follows the first frames is played for sure.
    harness.run_steps(4);
    harness
}

fn window(desk: Desk) -> Harness<'static, Window> {
    window_of(desk, 1.0 / 60.0, vec2(1280.0, 800.0))
}

fn ticks(harness: &Harness<'_, Window>) -> u64 {
    harness.state().desk.player.tick_now()
}

fn happened(harness: &Harness<'_, Window>) -> Vec<Event> {
    harness.state().desk.player.trace().rows.iter().flat_map(|row| row.events.clone()).collect()
}

#[test]
fn a_press_shorter_than_a_frame_jumps_however_slow_the_frame() {
    for frame in [1.0 / 240.0, 1.0 / 60.0, 1.0 / 10.0] {
        let mut harness = window_of(desk(), frame, vec2(1280.0, 800.0));
        // Both edges in one frame.
        for pressed in [true, false] {
            harness.input_mut().events.push(eframe::egui::Event::Key {
                key: Key::Space,
                physical_key: None,
                pressed,
                repeat: false,
                modifiers: Modifiers::NONE,
            });
        }
        harness.run_steps((0.1 / frame).ceil() as usize + 4);
        assert!(happened(&harness).contains(&Event::Jumped(JumpedFrom::Ground)), "frames of {frame} s");
        let held = harness.state().desk.player.tried().held.changes().to_vec();
        assert_eq!(held.len(), 2, "for one tick: {held:?}");
        assert_eq!(held[1].0 - held[0].0, 1);
    }
}

#[test]
fn a_key_shows_what_can_be_reached_and_a_click_plays_the_way() {
    let mut harness = window(desk());
    harness.key_press(Key::V);
    harness.run_steps(2);
    let is_looking = |harness: &Harness<'_, Window>| harness.state().desk.ways.as_ref().unwrap().is_looking();
    for _ in 0..3000 {
        if !is_looking(&harness) {
            break;
        }
        std::thread::sleep(std::time::Duration::from_millis(20));
        harness.run_steps(1);
    }
    assert!(!is_looking(&harness), "within a minute");
    // Somewhere over the level is a place that it comes to.
    let places =
        (0..12).flat_map(|row| (0..8).map(move |column| pos2(60.0 + 100.0 * column as f32, 120.0 + 38.0 * row as f32)));
    let plays = |place| {
        click(&mut harness, place);
        harness.state().desk.player.is_shown_again()
    };
    assert!(places.into_iter().any(plays));
    harness.get_by_label("Ways").click();
    harness.run_steps(2);
    assert!(harness.state().desk.ways.is_none());
}

#[test]
fn keys_play_pause_step_and_start_again() {
    let mut harness = window(desk());
    harness.key_down(Key::D);
    harness.run_steps(20);
    harness.key_up(Key::D);
    harness.run_steps(4);
    let x = harness.state().desk.player.play().report().feet.x;
    assert!(x > 30.0, "{x}");
    harness.key_press(Key::P);
    harness.run_steps(3);
    let paused = ticks(&harness);
    harness.run_steps(10);
    assert_eq!(ticks(&harness), paused);
    harness.key_press(Key::N);
    harness.run_steps(1);
    assert_eq!(ticks(&harness), paused + 1);
    harness.key_press(Key::Comma);
    harness.key_press(Key::Comma);
    harness.run_steps(1);
    assert_eq!(ticks(&harness), paused - 1);
    assert!(harness.state().desk.player.is_back());
    harness.get_by_label("Play on").click();
    harness.run_steps(3);
    assert!(ticks(&harness) > paused - 1 && !harness.state().desk.player.is_back());
    harness.key_press(Key::R);
    harness.run_steps(1);
    assert!(ticks(&harness) < 3);
}

#[test]
fn keys_are_let_go_when_the_window_loses_the_keyboard() {
    let mut harness = window(desk());
    harness.key_down(Key::ArrowRight);
    harness.run_steps(5);
    harness.event(eframe::egui::Event::WindowFocused(false));
    harness.run_steps(5);
    let last = harness.state().desk.player.trace().rows.len() as u64 - 1;
    assert!(!harness.state().desk.player.tried().held.at(last).right);
}

#[test]
fn a_number_is_dragged_and_the_path_moves_in_the_same_frame() {
    let mut harness = window(desk());
    harness.key_down(Key::ArrowRight);
    harness.run_steps(60);
    harness.key_up(Key::ArrowRight);
    harness.run_steps(5);
    let slider = harness.get_by_role_and_label(Role::Slider, "run.top_speed").rect();
    let (from, to) = (slider.center(), slider.right_center() - vec2(12.0, 0.0));
    harness.hover_at(from);
    harness.drag_at(from);
    harness.run_steps(1);
    harness.hover_at(to);
    harness.run_steps(1);
    let state = harness.state();
    let again = state.desk.again.as_ref().expect("in the frame of the drag");
    let speed = state.desk.numbers.file().tuning.run().top_speed;
    assert!(speed > 200.0, "{speed}");
    let held = state.desk.player.tried().held.clone();
    let fresh =
        wumple::run(state.desk.level(), &state.desk.numbers.file().tuning, &held, again.now.rows.len() as u64 - 1);
    assert_eq!(again.now.rows, fresh.unwrap().rows, "to the bit");
    harness.drop_at(to);
    harness.run_steps(2);
    assert_eq!(harness.state().desk.numbers.undoes(), Some("run.top_speed"));
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Z);
    harness.run_steps(2);
    assert_eq!(harness.state().desk.numbers.text(), demo::DAB, "one drag is one step");
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Y);
    harness.run_steps(2);
    assert!(harness.state().desk.numbers.is_unkept());
}

#[test]
fn keys_play_on_right_after_a_slider_was_let_go() {
    let mut harness = window(desk());
    let slider = harness.get_by_role_and_label(Role::Slider, "run.top_speed").rect();
    harness.hover_at(slider.center());
    harness.drag_at(slider.center());
    harness.run_steps(2);
    harness.drop_at(slider.center() + vec2(6.0, 0.0));
    harness.run_steps(2);
    let before = harness.state().desk.numbers.text();
    harness.key_down(Key::ArrowRight);
    harness.run_steps(20);
    assert_eq!(harness.state().desk.numbers.text(), before, "the arrow is the player's");
    assert!(harness.state().desk.player.play().report().feet.x > 25.0);
}

#[test]
fn it_is_worked_by_keyboard_alone() {
    let mut harness = window(desk());
    harness.get_by_role_and_label(Role::Slider, "run.top_speed").focus();
    harness.run_steps(2);
    harness.key_press(Key::ArrowRight);
    harness.run_steps(3);
    let state = harness.state();
    assert!(state.desk.numbers.differs("run.top_speed"), "the arrow is the slider's");
    assert!(state.desk.player.tried().held.changes().is_empty(), "and not the player's");
    harness.key_press(Key::Escape);
    harness.run_steps(3);
    let before = harness.state().desk.numbers.text();
    harness.key_down(Key::ArrowRight);
    harness.run_steps(10);
    assert_eq!(harness.state().desk.numbers.text(), before);
    assert!(harness.state().desk.player.play().report().feet.x > 24.0, "back to playing");
    harness.key_up(Key::ArrowRight);
    // By Tab one comes to a control.
    harness.key_press(Key::Tab);
    harness.run_steps(3);
    assert!(harness.ctx.memory(|memory| memory.focused()).is_some());
}

#[test]
fn a_key_is_found_by_its_name_and_changed_by_typing() {
    let mut harness = window(desk());
    let search = harness.get_by_role_and_label(Role::TextInput, "Search");
    search.focus();
    search.type_text("coyote");
    harness.run_steps(3);
    assert!(harness.query_by_role_and_label(Role::Slider, "run.top_speed").is_none());
    let before = ticks(&harness);
    harness.get_by_role_and_label(Role::Slider, "jump.coyote_time");
    assert!(before > 0 && happened(&harness).is_empty(), "what was typed was no key of the player");
    harness.state_mut().desk.numbers.set("jump.coyote_time", "0.2 s");
    harness.run_steps(2);
    harness.get_by_label("reset").click();
    harness.run_steps(2);
    assert!(!harness.state().desk.numbers.is_unkept());
}

#[test]
fn the_timeline_is_dragged_back_and_played_on_from_there() {
    let mut harness = window(desk());
    harness.key_down(Key::ArrowRight);
    harness.run_steps(90);
    harness.key_up(Key::ArrowRight);
    harness.run_steps(30);
    let whole = harness.state().desk.player.trace().rows.clone();
    // In the strips at the bottom, about the middle of the time.
    let strip = pos2(420.0, 745.0);
    harness.hover_at(strip);
    harness.drag_at(strip);
    harness.run_steps(2);
    harness.drop_at(strip);
    harness.run_steps(2);
    let tick = ticks(&harness);
    assert!(tick > 10 && tick < whole.len() as u64 - 10, "{tick} of {}", whole.len());
    assert_eq!(harness.state().desk.player.play().report(), &whole[tick as usize]);
    harness.key_press(Key::P);
    harness.run_steps(20);
    assert!(harness.state().desk.player.trace().rows.len() > tick as usize);
    assert_eq!(harness.state().desk.player.trace().rows[..=tick as usize], whole[..=tick as usize]);
}

/// Of a try that is longer than what is shown at once: a drag stays where the hand is, goes on at the ends, and the whole of it is
/// in a bar of its own.
#[test]
fn a_long_try_is_gone_back_in() {
    let mut harness = window(desk());
    harness.state_mut().desk.player.runs = false;
    for _ in 0..60 * 30 {
        harness.state_mut().desk.player.step();
    }
    harness.run_steps(3);
    let last = ticks(&harness);
    assert!(last > 29 * 60, "{last}");
    let strip = harness.get_by_label("The timeline").rect();
    let at = pos2(strip.center().x, strip.top() + 6.0);
    harness.hover_at(at);
    harness.drag_at(at);
    harness.run_steps(2);
    let held = ticks(&harness);
    assert!(held < last - 60 && held > last - 12 * 60, "{held}");
    harness.run_steps(30);
    assert_eq!(ticks(&harness), held, "while the hand is still, so is time");
    // At the left end it goes on beyond what is shown.
    let edge = pos2(strip.left() + 80.0, at.y);
    harness.hover_at(edge);
    harness.run_steps(90);
    assert!(ticks(&harness) < last - 12 * 60, "{}", ticks(&harness));
    harness.drop_at(edge);
    harness.run_steps(3);
    let left = ticks(&harness);
    harness.run_steps(30);
    assert_eq!(ticks(&harness), left, "let go, it stays");
    // The whole of it.
    let whole = harness.get_by_label("The whole try").rect();
    let at = pos2(whole.left() + 74.0 + (whole.width() - 82.0) * 0.5, whole.center().y);
    click(&mut harness, at);
    assert!(ticks(&harness).abs_diff(last / 2) < 6, "{} of {last}", ticks(&harness));
}

#[test]
fn a_refused_press_is_read_of_and_gone_to() {
    let mut harness = window(desk());
    // From the ground, in the air, and once more: that one is refused.
    for _ in 0..3 {
        harness.key_press(Key::Space);
        harness.run_steps(10);
    }
    harness.run_steps(60);
    harness.key_press(Key::P);
    harness.run_steps(2);
    let press = harness.state().desk.player.log().presses().iter().find(|press| press.led_to == "nothing").cloned();
    let press = press.expect("in the air there is nothing to jump from");
    let line = harness.get_all_by_role(Role::Label).find(|label| {
        label
            .value()
            .or_else(|| egui_kittest::kittest::NodeT::accesskit_node(label).label())
            .is_some_and(|words| words.contains("refused"))
    });
    line.expect("its reason stands there").click();
    harness.run_steps(2);
    assert_eq!(ticks(&harness), press.pressed_tick);
}

#[test]
fn the_level_is_panned_zoomed_painted_and_started_in() {
    let mut harness = window(desk());
    harness.run_steps(2);
    let middle = pos2(430.0, 200.0);
    harness.hover_at(middle);
    harness.event(eframe::egui::Event::MouseWheel {
        unit: eframe::egui::MouseWheelUnit::Point,
        delta: vec2(0.0, 120.0),
        phase: eframe::egui::TouchPhase::Move,
        source: eframe::egui::MouseWheelSource::Wheel,
        modifiers: Modifiers::NONE,
    });
    harness.run_steps(40);
    assert!(!harness.state().look.follows());
    harness.key_press(Key::F);
    harness.run_steps(2);
    assert!(harness.state().look.follows());
    harness.state_mut().tool = Tool::Place;
    click(&mut harness, middle);
    assert!(ticks(&harness) < 10, "a try began there");
    let feet = harness.state().desk.player.trace().rows[0].feet;
    harness.state_mut().tool = Tool::Paint('#');
    click(&mut harness, middle);
    let (column, row) = ((feet.x / 16.0) as i32, (feet.y / 16.0) as i32);
    let level = harness.state().desk.level();
    assert!(wumple::Terrain::surface(&level.grid, column, row) == wumple::Surface::Solid, "({column}, {row})");
    harness.key_press_modifiers(Modifiers::COMMAND, Key::Z);
    harness.run_steps(2);
    assert_eq!(harness.state().desk.room.text(), demo::THROWING_ROOM);
}

#[test]
fn tools_are_used_by_keyboard_alone() {
    let mut harness = window(desk());
    harness.key_press(Key::P);
    harness.key_press(Key::Plus);
    harness.run_steps(3);
    assert!(!harness.state().look.follows());
    harness.key_press(Key::F);
    harness.key_press_modifiers(Modifiers::SHIFT, Key::ArrowRight);
    harness.run_steps(3);
    assert!(!harness.state().look.follows(), "panned");
    assert!(harness.state().desk.player.tried().held.changes().is_empty(), "and nothing was held");
    let (column, row) = harness.state().desk.level().spawn_tile;
    harness.state_mut().tool = Tool::Paint('#');
    for _ in 0..4 {
        harness.key_press_modifiers(Modifiers::SHIFT, Key::ArrowRight);
    }
    harness.key_press(Key::Enter);
    harness.run_steps(3);
    let level = harness.state().desk.level();
    assert!(wumple::Terrain::surface(&level.grid, column as i32 + 4, row as i32) == wumple::Surface::Solid);
    harness.state_mut().tool = Tool::Place;
    harness.key_press_modifiers(Modifiers::SHIFT, Key::ArrowLeft);
    harness.key_press(Key::Enter);
    harness.run_steps(3);
    let start = harness.state().desk.player.trace().rows[0].feet;
    assert_eq!((start.x / 16.0) as usize, column + 3, "{start}");
}

#[test]
fn a_gamepad_plays_pauses_and_starts_again() {
    use std::{cell::RefCell, rc::Rc};
    use wumple_window::view::PadEdge;
    let done: Rc<RefCell<Vec<PadEdge>>> = Rc::default();
    let mut harness = window(desk());
    let told = Rc::clone(&done);
    harness.state_mut().ask_pad(move || told.borrow_mut().drain(..).collect());
    let pushed = wumple::Buttons { steer: 1.0, ..wumple::Buttons::NONE };
    let jumps = wumple::Buttons { jump: true, ..pushed };
    // A press and its end within one frame.
    done.borrow_mut().extend([pushed, jumps, pushed].map(PadEdge::Held));
    harness.run_steps(30);
    assert!(happened(&harness).contains(&Event::Jumped(JumpedFrom::Ground)));
    assert!(harness.state().desk.player.play().report().feet.x > 30.0);
    // The keyboard beside it: what either holds is held.
    harness.key_down(Key::ArrowDown);
    harness.run_steps(2);
    let last = ticks(&harness);
    let held = harness.state().desk.player.tried().held.at(last);
    assert!(held.down && held.steer == 1.0, "{held:?}");
    harness.key_up(Key::ArrowDown);
    done.borrow_mut().push(PadEdge::Pause);
    harness.run_steps(2);
    let paused = ticks(&harness);
    harness.run_steps(10);
    assert_eq!(ticks(&harness), paused);
    done.borrow_mut().extend([PadEdge::Held(wumple::Buttons::NONE), PadEdge::Restart]);
    harness.run_steps(2);
    assert!(ticks(&harness) < paused);
}

/// Whatever can be clicked, dragged or typed in says what it does once the pointer rests on it, numbers with their range.
#[test]
fn every_control_has_a_tooltip() {
    let level = Source::of_demo("chimney.level.toml", demo::ROOMS[0].level);
    let desk = Desk::open(&level, &Source::of_demo("climbing-dab.tuning.toml", demo::CLIMBING_DAB)).unwrap();
    // So high that no section has to be scrolled to.
    let mut harness = window_of(desk, 1.0 / 60.0, vec2(1280.0, 2600.0));
    harness.key_press(Key::P);
    harness.run_steps(3);
    harness.ctx.all_styles_mut(|style| style.interaction.tooltip_delay = 0.0);
    let mut seen = BTreeSet::new();
    tooltips(&mut harness, &mut seen);
    for menu in ["Chimney: Climbing Dab", "Keep", "Show", "Pointer: pans"] {
        harness.get_by_label(menu).click();
        harness.run_steps(3);
        tooltips(&mut harness, &mut seen);
        harness.key_press(Key::Escape);
        harness.run_steps(3);
    }
    assert!(seen.len() > 150, "{}", seen.len());
}

/// Rests the pointer on every control that is there and was not seen before.
fn tooltips(harness: &mut Harness<'_, Window>, seen: &mut BTreeSet<String>) {
    for role in [Role::Button, Role::Slider, Role::CheckBox, Role::ComboBox, Role::TextInput, Role::SpinButton] {
        let name = |node: &egui_kittest::Node<'_>| {
            format!("{role:?} {:?}", egui_kittest::kittest::NodeT::accesskit_node(node).label())
        };
        let found: Vec<(String, Pos2)> =
            harness.query_all_by_role(role).map(|node| (name(&node), node.rect().center())).collect();
        for (name, at) in found {
            if !seen.insert(name.clone()) {
                continue;
            }
            harness.hover_at(pos2(4.0, 1000.0));
            harness.run_steps(1);
            harness.hover_at(at);
            harness.run_steps(8);
            assert!(harness.query_all_by_role(Role::Tooltip).next().is_some(), "{name} at {at}");
        }
    }
}

fn click(harness: &mut Harness<'_, Window>, at: Pos2) {
    harness.hover_at(at);
    harness.run_steps(1);
    harness.drag_at(at);
    harness.run_steps(1);
    harness.drop_at(at);
    harness.run_steps(2);
}

#[test]
fn what_is_kept_is_written_and_what_is_not_is_asked_about() {
    let folder = tempfile::tempdir().unwrap();
    let mut harness = window(desk_in(folder.path()));
    harness.state_mut().desk.numbers.set("jump.height", "3.9 tiles");
    harness.run_steps(2);
    harness.get_by_label("Keep").click();
    harness.run_steps(3);
    harness.get_by_label("The numbers").click();
    harness.run_steps(3);
    let kept = std::fs::read_to_string(folder.path().join("dab.tuning.toml")).unwrap();
    assert!(kept.contains("3.9 tiles"));
    // Closing asks, and keeps.
    harness.state_mut().desk.numbers.set("jump.height", "4.1 tiles");
    let root = harness.input_mut().viewports.entry(eframe::egui::ViewportId::ROOT).or_default();
    root.events.push(eframe::egui::ViewportEvent::Close);
    harness.run_steps(3);
    harness.get_by_label("Not everything is kept");
    harness.get_by_label("Keep and close").click();
    harness.run_steps(3);
    assert!(std::fs::read_to_string(folder.path().join("dab.tuning.toml")).unwrap().contains("4.1 tiles"));
    // A file that changes under changes here is asked about.
    harness.state_mut().desk.numbers.set("jump.height", "3 tiles");
    std::fs::write(folder.path().join("dab.tuning.toml"), demo::DAB).unwrap();
    harness.state_mut().desk.changed_on_disk(&folder.path().join("dab.tuning.toml"));
    harness.run_steps(3);
    harness.get_by_label("Take the file").click();
    harness.run_steps(3);
    assert_eq!(harness.state().desk.numbers.text(), demo::DAB);
}

#[test]
fn rooms_are_chosen_from_a_menu_and_all_of_them_are_drawn() {
    let mut harness = window(desk());
    harness.get_by_label("Throwing room: Dab").click();
    harness.run_steps(3);
    harness.get_by_label("chimney").click();
    harness.run_steps(5);
    assert_eq!(harness.state().desk.level().name, "Chimney");
    for (name, _, level, tuning) in wumple_window::desk::demo_rooms() {
        harness.state_mut().desk = Desk::open(&level, &tuning).unwrap();
        harness.state_mut().shows.arc = true;
        harness.state_mut().shows.boxes = true;
        harness.key_down(Key::ArrowRight);
        harness.run_steps(30);
        harness.key_up(Key::ArrowRight);
        assert!(ticks(&harness) > 10, "{name}");
    }
}

/// Nothing that can be clicked is outside of the window, or over another.
#[test]
fn at_any_size_every_control_is_within_the_window() {
    for (size, zoom) in [(vec2(1280.0, 800.0), 1.0), (vec2(1024.0, 700.0), 1.0), (vec2(2560.0, 1600.0), 2.0)] {
        let mut harness = window_of(desk(), 1.0 / 60.0, size / zoom);
        harness.set_pixels_per_point(zoom);
        harness.run_steps(4);
        let whole = eframe::egui::Rect::from_min_size(Pos2::ZERO, size / zoom);
        for label in ["Pause", "Step", "Start again", "Undo", "Keep", "Show", "Keys", "Dark", "Why"] {
            let rect = harness.get_by_label(label).rect();
            assert!(whole.contains_rect(rect), "{label} at {rect} in {size}");
        }
        let buttons: Vec<_> = ["Pause", "Step", "1/2", "Start again", "Undo", "Redo", "Keep", "Show", "Keys", "Dark"]
            .iter()
            .map(|label| (*label, harness.get_by_label(label).rect().shrink(1.0)))
            .collect();
        for (at, (one, rect)) in buttons.iter().enumerate() {
            for (other, over) in &buttons[..at] {
                assert!(!rect.intersects(*over), "{one} over {other} in {size}");
            }
        }
    }
}

//! Jumps on the controller itself: shapes, releases, windows, in every scheme.

use proptest::prelude::*;
use wumple_core::advanced::RiseRules;
use wumple_core::numbers::{Hang, JumpNumbers, JumpShape, Pixels, Release, Scheme};
use wumple_core::{Buttons, CharacterId, DVec2, Edge, Edges, Event, Grid, JumpedFrom, Tuning, TuningNumbers, World};

const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];
const JUMP: Buttons = Buttons { jump: true, ..Buttons::NONE };
const FLOOR: f64 = 1600.0;

fn tuning(scheme: Scheme, rate: f64, change: impl FnOnce(&mut JumpNumbers)) -> Tuning {
    let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    (numbers.scheme, numbers.rate) = (scheme, rate);
    change(numbers.jump.as_mut().unwrap());
    Tuning::check(&numbers).unwrap()
}

/// A floor at [`FLOOR`] under open space, ending at x = 1600, with a drop of 100 tiles beyond.
fn world(tuning: &Tuning, x: f64, y: f64) -> (World<Grid>, CharacterId) {
    let mut tiles = vec![0; 120 * 200];
    for row in 100..200 {
        tiles[row * 120..row * 120 + 100].fill(1);
    }
    let open = Edges { left: Edge::Open, right: Edge::Open, top: Edge::Open, bottom: Edge::Solid };
    let kinds = [wumple_core::TileProperties::EMPTY, wumple_core::TileProperties::SOLID];
    let mut world = World::new(Grid::new(120, tiles, 16.0, &kinds, open).unwrap());
    let dab = world.add_character(tuning.clone(), DVec2::new(x, y)).unwrap();
    (world, dab)
}

/// Heights after each tick of a jump from the floor whose button is held for `held` ticks.
fn heights(tuning: &Tuning, held: u32, ticks: u32) -> Vec<f64> {
    let (mut world, dab) = world(tuning, 400.0, FLOOR);
    (1..=ticks)
        .map(|tick| {
            world.tick(&[if tick <= held { JUMP } else { Buttons::NONE }]);
            FLOOR - world.report(dab).feet.y
        })
        .collect()
}

fn apex(heights: &[f64]) -> f64 {
    heights.iter().copied().fold(0.0, f64::max)
}

#[test]
fn the_models_table_of_heights() {
    for rate in [30.0, 50.0, 60.0, 144.0] {
        for scheme in SCHEMES {
            let tuning = tuning(scheme, rate, |_| {});
            let (v0, g) = (tuning.jump().unwrap().speed, tuning.gravity().rise);
            let dt = 1.0 / rate;
            let n = if scheme == Scheme::Exact { 0.35 * rate } else { (0.35 * rate + 0.5).floor() };
            let (speed, gravity) = match scheme {
                Scheme::Exact => (108.0 / 0.35, 108.0 / (0.35 * 0.35)),
                Scheme::VelocityFirst => {
                    (n * dt * 108.0 / (dt * dt * n * (n - 1.0)), 108.0 / (dt * dt * n * (n - 1.0)))
                }
                Scheme::PositionFirst => {
                    (n * dt * 108.0 / (dt * dt * n * (n + 1.0)), 108.0 / (dt * dt * n * (n + 1.0)))
                }
            };
            assert!((v0 / speed - 1.0).abs() < 1e-9 && (g / gravity - 1.0).abs() < 1e-9, "{scheme:?} {rate}");
            for (tick, height) in heights(&tuning, 99, n as u32).iter().enumerate() {
                let n = tick as f64 + 1.0;
                let table = match scheme {
                    Scheme::Exact => v0 * n * dt - g * n * n * dt * dt / 2.0,
                    Scheme::VelocityFirst => v0 * n * dt - g * dt * dt * n * (n + 1.0) / 2.0,
                    Scheme::PositionFirst => v0 * n * dt - g * dt * dt * n * (n - 1.0) / 2.0,
                };
                assert!((height - table).abs() < 1e-9 * 54.0, "{scheme:?} {rate} {tick}");
            }
        }
    }
}

fn release() -> impl Strategy<Value = Release> {
    prop_oneof![
        Just(Release::None),
        (0.0..1.0f64).prop_map(|keep| Release::Cut { keep }),
        (1.0..6.0f64).prop_map(|gravity_ratio| Release::Heavy { gravity_ratio }),
        (0.0..0.3f64).prop_map(|time| Release::Sustain { time }),
        (0.0..60.0f64, 0.0..10.0f64)
            .prop_map(|(tap_height, further_rise)| Release::ToHeight { tap_height, further_rise }),
    ]
}

proptest! {
    #![proptest_config(crate::rooms::cases(1500))]

    /// Hang, sustain, any scheme: held all the way, the jump is as high as asked, when asked.
    #[test]
    fn a_full_jump_has_the_height_and_time_asked_for(
        scheme in prop::sample::select(&SCHEMES[..]), rate in prop::sample::select(&[30.0, 60.0, 144.0][..]),
        height in 8.0..300.0f64, time in 0.2..0.9f64, release in release(),
        hang in prop::option::of((5.0..120.0f64, 0.2..1.5f64)),
    ) {
        let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(height, time);
        (numbers.scheme, numbers.rate) = (scheme, rate);
        let jump = numbers.jump.as_mut().unwrap();
        jump.release = release;
        jump.hang = hang.map(|(speed, gravity_ratio)| Hang { speed, gravity_ratio });
        // Some wishes cannot be; that is said, not guessed.
        let Ok(tuning) = Tuning::check(&numbers) else { return Ok(()) };
        let ticks = (time * rate + 0.5 + 1e-9).floor();
        let (heights, speeds) = {
            let (mut world, dab) = world(&tuning, 400.0, FLOOR);
            (0..ticks as u32 + 2).map(|_| {
                world.tick(&[JUMP]);
                (FLOOR - world.report(dab).feet.y, world.report(dab).velocity.y)
            }).unzip::<f64, f64, Vec<f64>, Vec<f64>>()
        };
        if scheme.is_stepped() {
            let n = ticks as usize;
            prop_assert!((heights[n - 1] - height).abs() < 1e-6, "{} at tick {n}: {heights:?}", heights[n - 1]);
            prop_assert_eq!(speeds[n - 1], 0.0);
            prop_assert!(speeds[n - 2] < 0.0);
        } else {
            prop_assert!(apex(&heights) <= height + 1e-6);
            let rising = speeds.iter().take_while(|speed| **speed < 0.0).count() as f64;
            prop_assert_eq!(rising, (time * rate - 1e-6).ceil() - 1.0);
        }
    }

    /// The least speed for a height, against a search through very many speeds.
    #[test]
    fn the_least_speed_for_a_height_is_the_least(
        scheme in prop::sample::select(&SCHEMES[..]), height in 0.5..120.0f64,
        hang in prop::option::of((5.0..150.0f64, 0.2..2.0f64)), sustain in prop::sample::select(&[0.0, 0.05, 0.1][..]),
    ) {
        let (hang_speed, hang_ratio) = hang.unwrap_or((0.0, 1.0));
        let rules = RiseRules { scheme, dt: 1.0 / 60.0, hang_speed, hang_ratio, sustain };
        let speed = rules.speed_for(height, 900.0);
        prop_assert!(rules.apex_height(speed, 900.0) >= height - 1e-9, "{}", rules.apex_height(speed, 900.0));
        for step in 0..4000 {
            let slower = speed * f64::from(step) / 4000.0;
            prop_assert!(rules.apex_height(slower, 900.0) < height, "{slower} < {speed} would do");
        }
        prop_assert_eq!(rules.speed_for(0.0, 900.0), 0.0);
    }

    /// The apex that the rules foresee is the one that the controller reaches.
    #[test]
    fn the_apex_foreseen_is_the_apex_reached(
        scheme in prop::sample::select(&SCHEMES[..]), speed in 160.0..500.0f64,
        hang in prop::option::of((5.0..150.0f64, 0.2..2.0f64)), sustain in prop::sample::select(&[0.0, 0.05, 0.1][..]),
    ) {
        let (hang_speed, hang_ratio) = hang.unwrap_or((0.0, 1.0));
        let rules = RiseRules { scheme, dt: 1.0 / 60.0, hang_speed, hang_ratio, sustain };
        let tuning = tuning(scheme, 60.0, |jump| {
            jump.shape = JumpShape::SpeedAndGravity { speed, gravity: 900.0 };
            jump.hang = hang.map(|(speed, gravity_ratio)| Hang { speed, gravity_ratio });
            jump.release = Release::Sustain { time: sustain };
        });
        let reached = apex(&heights(&tuning, 999, 400));
        let foreseen = rules.apex_height(speed, 900.0);
        let between = if scheme.is_stepped() { 1e-6 } else { 900.0 * hang_ratio.max(1.0) / 7200.0 };
        prop_assert!((reached - foreseen).abs() <= between, "{reached} {foreseen}");
    }

    /// To-height: the smallest hop is the tap height whatever tick the button goes up on.
    #[test]
    fn the_smallest_hop_is_the_tap_height(
        scheme in prop::sample::select(&SCHEMES[..]), rate in prop::sample::select(&[30.0, 60.0, 144.0][..]),
        tap_height in 2.0..50.0f64, hang in prop::option::of((5.0..60.0f64, 0.3..1.0f64)),
    ) {
        let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
        (numbers.scheme, numbers.rate) = (scheme, rate);
        let jump = numbers.jump.as_mut().unwrap();
        jump.release = Release::ToHeight { tap_height, further_rise: 0.0 };
        jump.hang = hang.map(|(speed, gravity_ratio)| Hang { speed, gravity_ratio });
        let Ok(tuning) = Tuning::check(&numbers) else { return Ok(()) };
        for held in 1..(0.35 * rate) as u32 {
            let heights = heights(&tuning, held, 200);
            let at_release = heights[held as usize - 1];
            if at_release <= tap_height {
                let within = if scheme.is_stepped() { 1e-6 } else { 0.7 };
                prop_assert!((apex(&heights) - tap_height).abs() < within, "{held}: {}", apex(&heights));
            } else {
                prop_assert!((apex(&heights) - at_release).abs() < 1e-9, "no further rise was asked for");
            }
        }
    }

    /// Without a hang, holding longer never makes a jump lower.
    #[test]
    fn longer_holds_are_never_lower(scheme in prop::sample::select(&SCHEMES[..]), release in release()) {
        let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.5);
        numbers.scheme = scheme;
        numbers.jump.as_mut().unwrap().release = release;
        let tuning = Tuning::check(&numbers).unwrap();
        let mut before = 0.0;
        for held in 1..40 {
            let apex = apex(&heights(&tuning, held, 120));
            // Between two ticks of the exact scheme the apex is up to g*dt*dt/8 higher than seen.
            let unseen = if scheme.is_stepped() { 1e-9 } else { 0.1 };
            prop_assert!(apex >= before - unseen, "{held}: {apex} < {before}");
            before = apex;
        }
    }

    #[test]
    fn an_air_jump_never_lowers_the_upward_speed(
        scheme in prop::sample::select(&SCHEMES[..]), air_height in 1.0..100.0f64, at in 2u32..60, release in release(),
    ) {
        let tuning = tuning(scheme, 60.0, |jump| {
            (jump.air_jumps, jump.air_jump_height, jump.air_jump_release) = (1, Some(air_height), Some(release));
        });
        let (mut world, dab) = world(&tuning, 400.0, FLOOR);
        let mut plain = world.clone();
        for tick in 1..=at {
            world.tick(&[if tick == 1 || tick == at { JUMP } else { Buttons::NONE }]);
            plain.tick(&[if tick == 1 { JUMP } else { Buttons::NONE }]);
        }
        let (with, without) = (world.report(dab), plain.report(dab));
        if with.events.contains(&Event::Jumped(JumpedFrom::Air)) {
            prop_assert!(with.velocity.y <= without.velocity.y);
        }
    }
}

fn pressed_within(tuning: &Tuning, x: f64, y: f64, held: impl Fn(u64) -> Buttons, ticks: u64) -> Vec<(u64, Event)> {
    let (mut world, dab) = world(tuning, x, y);
    let mut events = Vec::new();
    for tick in 1..=ticks {
        world.tick(&[held(tick)]);
        events.extend(world.report(dab).events.iter().map(|event| (tick, *event)));
    }
    events
}

fn tick_of(events: &[(u64, Event)], wanted: impl Fn(&Event) -> bool) -> Option<u64> {
    events.iter().find(|(_, event)| wanted(event)).map(|(tick, _)| *tick)
}

fn is_jump(event: &Event) -> bool {
    matches!(event, Event::Jumped(JumpedFrom::Ground))
}

fn is_landing(event: &Event) -> bool {
    matches!(event, Event::Landed { .. })
}

#[test]
fn coyote_time_at_its_first_and_last_tick_and_one_beyond() {
    let right = |jump| Buttons { right: true, jump, ..Buttons::NONE };
    for (rate, seconds) in [(30.0, 0.1), (60.0, 0.1), (144.0, 0.1), (60.0, 0.0)] {
        for scheme in SCHEMES {
            let tuning = tuning(scheme, rate, |jump| jump.coyote_time = seconds);
            let n = (seconds * rate + 0.5 + 1e-9_f64).floor() as u64;
            let walk = |press: u64| pressed_within(&tuning, 1590.0, FLOOR, |tick| right(tick == press), 60);
            let lost = tick_of(&walk(u64::MAX), |event| *event == Event::LostGround).unwrap();
            for press in [lost, lost + 1, lost + n, lost + n + 1] {
                let jumped = tick_of(&walk(press), is_jump);
                // Pressed in the tick that walks off, the jump is still off the ground.
                let admitted = press - lost <= n || press == lost;
                assert_eq!(
                    jumped,
                    admitted.then_some(press),
                    "{scheme:?} {rate} Hz, lost in {lost}, pressed in {press}"
                );
            }
        }
    }
}

#[test]
fn coyote_time_is_not_given_after_a_jump() {
    let tuning = tuning(Scheme::Exact, 60.0, |jump| jump.coyote_time = 0.5);
    let events = pressed_within(&tuning, 400.0, FLOOR, |tick| if tick % 4 == 1 { JUMP } else { Buttons::NONE }, 20);
    assert_eq!(events.len(), 1, "no second jump in mid-air: {events:?}");
}

#[test]
fn buffer_time_at_its_first_and_last_tick_and_one_beyond() {
    for (rate, seconds) in [(30.0, 0.1), (60.0, 0.1), (144.0, 0.1), (60.0, 0.0)] {
        for scheme in SCHEMES {
            let tuning = tuning(scheme, rate, |jump| jump.buffer_time = seconds);
            let n = (seconds * rate + 0.5 + 1e-9_f64).floor() as u64;
            let drop = |press: u64| {
                let held = |tick| if tick == press { JUMP } else { Buttons::NONE };
                pressed_within(&tuning, 400.0, FLOOR - 100.0, held, 200)
            };
            let landing = tick_of(&drop(u64::MAX), is_landing).unwrap();
            let fires = landing + 1;
            for press in [fires, fires - n, fires - n - 1] {
                let expected = (fires - press <= n).then_some(fires).or((press == fires).then_some(fires));
                assert_eq!(
                    tick_of(&drop(press), is_jump),
                    expected,
                    "{scheme:?} {rate} Hz, landing {landing}, {press}"
                );
            }
        }
    }
}

#[test]
fn a_buffered_press_let_go_before_landing_is_a_tap() {
    for scheme in SCHEMES {
        let tuning = tuning(scheme, 60.0, |jump| {
            jump.buffer_time = 0.2;
            jump.release = Release::ToHeight { tap_height: 12.0, further_rise: 0.0 };
        });
        let (mut world, dab) = world(&tuning, 400.0, FLOOR - 60.0);
        let landing = (1..200u64)
            .find(|_| {
                world.tick(&[Buttons::NONE]);
                world.report(dab).contacts.below
            })
            .unwrap();
        // Let go for good, or pressed again just after the take-off, which revives nothing.
        for pressed_again in [u64::MAX, landing + 2] {
            let (mut again, dab) = self::world(&tuning, 400.0, FLOOR - 60.0);
            let mut highest = 0.0;
            for tick in 1..landing + 60 {
                again.tick(&[if tick == landing - 3 || tick >= pressed_again { JUMP } else { Buttons::NONE }]);
                if tick > landing {
                    highest = f64::max(highest, FLOOR - again.report(dab).feet.y);
                }
            }
            assert!((highest - 12.0).abs() < if scheme.is_stepped() { 1e-6 } else { 0.2 }, "{scheme:?}: {highest}");
        }
    }
}

#[test]
fn air_jumps_are_counted_and_given_back() {
    let tuning = tuning(Scheme::Exact, 60.0, |jump| jump.air_jumps = 2);
    let press = |tick: u64| if tick % 6 == 1 && tick < 40 || tick == 301 { JUMP } else { Buttons::NONE };
    let events = pressed_within(&tuning, 400.0, FLOOR, press, 320);
    let jumps: Vec<u64> =
        events.iter().filter(|(_, event)| matches!(event, Event::Jumped(_))).map(|(t, _)| *t).collect();
    assert_eq!(jumps, [1, 7, 13, 301]);
    // Given back on the ground.
    let press = |tick: u64| if [1, 12, 301, 312].contains(&tick) { JUMP } else { Buttons::NONE };
    let events = pressed_within(&tuning, 400.0, FLOOR, press, 340);
    let air = events.iter().filter(|(_, event)| *event == Event::Jumped(JumpedFrom::Air)).count();
    assert_eq!(air, 2);
}

#[test]
fn a_press_shortly_before_landing_waits_for_the_ground_if_asked() {
    for (waits, expected) in [(true, JumpedFrom::Ground), (false, JumpedFrom::Air)] {
        let tuning = tuning(Scheme::Exact, 60.0, |jump| {
            (jump.air_jumps, jump.buffer_time, jump.waits_for_ground) = (1, 0.1, waits);
        });
        let drop = |press: u64| {
            let held = |tick| if tick == press { JUMP } else { Buttons::NONE };
            pressed_within(&tuning, 400.0, FLOOR - 100.0, held, 100)
        };
        let landing = tick_of(&drop(u64::MAX), is_landing).unwrap();
        // Six ticks of buffer: pressed in P, a landing in P+5 lets it fire in P+6.
        for (press, from) in [(landing - 5, expected), (landing - 6, JumpedFrom::Air)] {
            let jump = drop(press).into_iter().find_map(|(_, event)| match event {
                Event::Jumped(from) => Some(from),
                _ => None,
            });
            assert_eq!(jump, Some(from), "waits: {waits}, pressed in {press}, landing in {landing}");
        }
    }
}

#[test]
fn a_button_held_repeats_from_the_ground_only_if_asked() {
    for (repeat, jumps) in [(true, 4), (false, 1)] {
        let tuning = tuning(Scheme::Exact, 60.0, |jump| jump.repeat_held = repeat);
        let events = pressed_within(&tuning, 400.0, FLOOR, |_| JUMP, 150);
        assert_eq!(events.iter().filter(|(_, event)| is_jump(event)).count(), jumps);
    }
}

#[test]
fn down_plunges_in_a_fall_and_not_in_a_rise() {
    let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    (numbers.fall.gravity_ratio, numbers.fall.plunge_ratio) = (1.5, 2.0);
    let tuning = Tuning::check(&numbers).unwrap();
    let g = tuning.gravity().rise;
    let (mut world, dab) = world(&tuning, 400.0, FLOOR);
    let down = Buttons { down: true, ..JUMP };
    (0..21).for_each(|_| world.tick(&[down]));
    assert!((FLOOR - world.report(dab).feet.y - 54.0).abs() < 1e-9, "the rise is as ever");
    world.tick(&[down]);
    assert!((world.report(dab).velocity.y - g * 3.0 / 60.0).abs() < 1e-9);
    world.tick(&[Buttons::NONE]);
    assert!((world.report(dab).velocity.y - g * 4.5 / 60.0).abs() < 1e-9);
}

#[test]
fn a_release_acts_once_and_pressing_again_revives_nothing() {
    for release in [Release::Cut { keep: 0.5 }, Release::Heavy { gravity_ratio: 3.0 }, Release::Sustain { time: 0.1 }] {
        let tuning = tuning(Scheme::Exact, 60.0, |jump| jump.release = release);
        let once = heights(&tuning, 3, 20);
        let (mut world, dab) = world(&tuning, 400.0, FLOOR);
        for (tick, height) in once.iter().enumerate() {
            let held = tick < 3 || tick % 2 == 0;
            world.tick(&[if held && tick != 3 { JUMP } else { Buttons::NONE }]);
            assert_eq!(FLOOR - world.report(dab).feet.y, *height, "{release:?} {tick}");
        }
    }
}

#[test]
fn whole_pixels_carry_the_rest_over() {
    for scheme in SCHEMES {
        let mut numbers = TuningNumbers::new(10.0, 22.0, 97.0).with_jump(54.0, 0.35);
        (numbers.scheme, numbers.pixels) = (scheme, Pixels::Whole);
        let whole = Tuning::check(&numbers).unwrap();
        numbers.pixels = Pixels::Free;
        let free = Tuning::check(&numbers).unwrap();
        let (mut one, dab) = world(&whole, 400.0, FLOOR);
        let (mut other, _) = world(&free, 400.0, FLOOR);
        for tick in 1..=200 {
            let held = Buttons { right: true, jump: tick % 50 == 10, ..Buttons::NONE };
            one.tick(&[held]);
            other.tick(&[held]);
            let (a, b) = (one.report(dab).feet, other.report(dab).feet);
            assert_eq!(a, a.round(), "{scheme:?} {tick}");
            assert!((a - b).abs().max_element() <= 0.5 + 1e-9, "{scheme:?} {tick}: {a} {b}");
        }
    }
    let mut numbers = TuningNumbers::new(10.5, 22.0, 97.0).with_jump(54.0, 0.35);
    numbers.pixels = Pixels::Whole;
    let message = Tuning::check(&numbers).unwrap_err().to_string();
    assert_eq!(message, "body.width is 10.5 px; with whole pixels it must be a whole number of px");
}

#[test]
fn shapes_that_cannot_be_say_which_number_to_change() {
    type Change = fn(&mut JumpNumbers);
    let table: [(Scheme, Change, &str); 4] = [
        (
            Scheme::Exact,
            |jump| jump.hang = Some(Hang { speed: 900.0, gravity_ratio: 0.5 }),
            "jump.hang.speed must be below the take-off speed, which is 154.3 px/s",
        ),
        (
            Scheme::Exact,
            |jump| jump.release = Release::Sustain { time: 0.4 },
            "jump.release.time must be shorter than the time to the apex",
        ),
        (
            Scheme::VelocityFirst,
            |jump| jump.release = Release::Sustain { time: 0.35 },
            "jump.release.time must be shorter than the time to the apex",
        ),
        (
            Scheme::VelocityFirst,
            |jump| jump.hang = Some(Hang { speed: 5000.0, gravity_ratio: 0.5 }),
            "jump.hang.speed leaves no way to come to rest after exactly 21 ticks",
        ),
    ];
    for (scheme, change, message) in table {
        let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
        numbers.scheme = scheme;
        change(numbers.jump.as_mut().unwrap());
        let said = Tuning::check(&numbers).unwrap_err().to_string();
        assert!(said.starts_with(message), "{said}");
    }
}

/// In every scheme, with a hang and without: the row of the apex is at rest to the bit, and is the first of the fall.
#[test]
fn an_apex_at_the_end_of_a_tick_is_at_rest() {
    let mut cases = 0;
    for scheme in SCHEMES {
        for rate in [30.0, 50.0, 60.0, 144.0, 1000.0] {
            for ticks in 3..60u32 {
                for (height, hang) in [(54.0, None), (17.3, Some((20.0, 0.5))), (200.0, Some((60.0, 0.7)))] {
                    let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(height, f64::from(ticks) / rate);
                    (numbers.scheme, numbers.rate) = (scheme, rate);
                    numbers.jump.as_mut().unwrap().hang =
                        hang.map(|(speed, gravity_ratio)| Hang { speed, gravity_ratio });
                    // Some hangs are too fast for so long a rise, or leave no whole number of ticks.
                    let Ok(tuning) = Tuning::check(&numbers) else { continue };
                    let (mut world, dab) = world(&tuning, 400.0, FLOOR);
                    (1..ticks).for_each(|_| world.tick(&[JUMP]));
                    assert_eq!(world.report(dab).state, wumple_core::State::Rise, "{numbers:?}");
                    world.tick(&[JUMP]);
                    let apex = world.report(dab);
                    assert_eq!((apex.velocity.y, apex.state), (0.0, wumple_core::State::Fall), "{numbers:?}");
                    cases += 1;
                }
            }
        }
    }
    assert!(cases > 1500, "{cases}");
}

//! Which states are alike: of those one is gone on from.

use wumple_core::{Buttons, Support, Terrain, Tuning};

use super::run::Run;

/// States of one key are alike.
pub(super) type Key = (i32, i32, u64);
/// A part of the level, and how it is gone through.
pub(super) type Part = (i32, i32, u64);

/// What is tried from a state.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum By {
    /// Walks and full leaps, to the next place to stand on.
    WalksAndLeaps,
    /// All whole moves.
    Strides,
    /// Choices of buttons, held for a while.
    Choices,
}

/// How exactly it is looked.
pub(super) struct Detail {
    /// For how long each choice is held, s.
    pub(super) step: f64,
    /// The side of the squares that places are told apart by, tiles.
    pub(super) side: f64,
    /// Into how many parts speeds up to the greatest are told apart, along and upward.
    pub(super) speeds: f64,
    pub(super) lifts: f64,
    /// The side of the parts of the level that are seen more or less, tiles.
    pub(super) part: f64,
    /// What is tried from each state.
    pub(super) by: By,
    /// Whether flights from the very edge are told apart from others.
    pub(super) leaps: bool,
    /// How many ticks it may take in which nothing is found, beside so many for each thing that is still to be found.
    pub(super) most: u64,
    pub(super) most_each: u64,
}

/// How finely states are told apart.
pub(super) struct Scale {
    tile: f64,
    /// The side of the squares that places are told apart by, px.
    side: f64,
    /// The side of the parts of the level, px.
    part: f64,
    speed: f64,
    lift: f64,
    moves: bool,
}

impl Scale {
    pub(super) fn of(run: &Run<'_>, tuning: &Tuning, detail: &Detail) -> Scale {
        let (run_speed, lift) = (tuning.numbers().run.top_speed, tuning.jump().map_or(1.0, |_| tuning.full_jump().0));
        let of_four_ways = tuning.numbers().four_way.as_ref().map_or(0.0, |ways| ways.top_speed);
        let tile = run.playing.world.terrain().grid_lines().spacing();
        Scale {
            tile,
            side: tile * detail.side,
            part: tile * detail.part,
            speed: run_speed.max(of_four_ways).max(1.0) / detail.speeds,
            lift: tuning.gravity().rise.max(1.0) * lift.max(0.05) / detail.lifts,
            moves: !run.playing.world.platforms().is_empty() || run.playing.world.props().len() > 0,
        }
    }

    pub(super) fn keys(&self, run: &Run<'_>, held: Buttons) -> (Key, Part) {
        let character = run.playing.character();
        let report = character.report();
        let at = |place: f64, side: f64| (place / side).floor() as i32;
        let mut mix = Mix::default();
        mix.add(report.state as u64);
        mix.add(u64::from(report.support != Support::None));
        mix.add(character.air_jumps_left().into());
        let round = run.playing.round.as_ref().map_or(0, |round| {
            let mut mix = Mix::default();
            mix.add(run.playing.world.away().len() as u64);
            mix.add(round.picked().into());
            mix.add(round.open_gates().len() as u64);
            mix.0
        });
        mix.add(round);
        // How near what is deadly behind has come.
        mix.add(run.playing.camera.map_or(0, |camera| at(camera.corner().x - report.feet.x, self.tile) as i64 as u64));
        let rough = mix.0;
        mix.add((report.velocity.x / self.speed).round() as i64 as u64);
        mix.add((report.velocity.y / self.lift).round() as i64 as u64);
        mix.add(u64::from(held.jump));
        if self.moves {
            // Only what is near matters for long.
            let near = self.tile * 12.0;
            let platforms =
                (0..run.playing.world.platforms().len()).map(|at| run.playing.world.platform_report(at).place);
            let props = run.playing.world.props().map(|prop| run.playing.world.place_of(prop.into()));
            for (number, place) in platforms.chain(props).enumerate() {
                let aside = (place.left - report.feet.x).abs().min((place.right - report.feet.x).abs());
                if aside < near && (place.top - report.feet.y).abs() < near {
                    mix.add(number as u64);
                    mix.add(at(place.left, self.tile * 0.5) as i64 as u64);
                    mix.add(at(place.top, self.tile * 0.5) as i64 as u64);
                }
            }
        }
        let key = (at(report.feet.x, self.side), at(report.feet.y, self.side), mix.0);
        (key, (at(report.feet.x, self.part), at(report.feet.y, self.tile), rough))
    }
}

/// Numbers made one.
#[derive(Default)]
pub(super) struct Mix(pub(super) u64);

impl Mix {
    pub(super) fn add(&mut self, number: u64) {
        self.0 = (self.0.rotate_left(5) ^ number).wrapping_mul(0x9E37_79B9_7F4A_7C15);
    }
}

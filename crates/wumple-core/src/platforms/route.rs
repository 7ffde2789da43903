//! Routes: where a platform is, as a pure function of the ticks since it was set off.

use alloc::vec::Vec;

use glam::DVec2;

use super::curve::{CurvedLeg, curve_through};
use super::{Bend, Ease, EaseOver, Ends, Pace};
use crate::space::Hitbox;
use crate::space::float::{DoubleDouble, sqrt};

/// Places joined by legs, straight or parts of a curve, and when each is reached.
#[derive(Clone, Debug, PartialEq)]
pub struct Route {
    places: Vec<DVec2>,
    /// When each place is reached on the way forward, s.
    reached: Vec<f64>,
    /// How long the leg from the last place to the first takes where the ends are a loop, s.
    closing: f64,
    /// The whole way there and back or round, waits included, in ticks. As long as the route goes on for
    /// ever, this alone decides how exact it stays.
    cycle: DoubleDouble,
    ease: Ease,
    ease_over: EaseOver,
    /// The legs, where they are not straight, the closing one last.
    curve: Vec<CurvedLeg>,
    ends: Ends,
    wait: f64,
    rate: f64,
}

/// How a route leads from place to place.
#[derive(Clone, Copy, Debug)]
pub(super) struct Manner {
    pub(super) pace: Pace,
    pub(super) ease: Ease,
    pub(super) ease_over: EaseOver,
    pub(super) bend: Bend,
    pub(super) ends: Ends,
    pub(super) wait: f64,
}

impl Route {
    /// `pace` must be above 0. Places of legs without length take no time.
    pub(super) fn new(places: Vec<DVec2>, manner: Manner, rate: f64) -> Route {
        let Manner { pace, ease, ease_over, bend, ends, wait } = manner;
        let closes = ends == Ends::Loop && places.len() > 1;
        let curve = if bend == Bend::Round { curve_through(&places, closes) } else { Vec::new() };
        let mut lengths: Vec<DoubleDouble> = if bend == Bend::Round {
            curve.iter().map(|leg| DoubleDouble::from(leg.length())).collect()
        } else {
            places.windows(2).map(|leg| length(leg[0], leg[1])).collect()
        };
        if closes && bend == Bend::Straight {
            lengths.push(length(places[places.len() - 1], places[0]));
        }
        let whole = lengths.iter().fold(DoubleDouble::ZERO, |sum, length| sum.plus(*length));
        let seconds = |length: DoubleDouble| match pace {
            Pace::Speed(speed) => length.over(speed),
            Pace::Trip(_) if whole.high == 0.0 => DoubleDouble::ZERO,
            Pace::Trip(trip) => length.times(trip).over_double_double(whole),
        };
        let closing = if closes { seconds(lengths.pop().unwrap_or(DoubleDouble::ZERO)) } else { DoubleDouble::ZERO };
        let (mut reached, mut sum) = (alloc::vec![0.0], DoubleDouble::ZERO);
        for length in lengths {
            sum = sum.plus(seconds(length));
            reached.push(sum.high);
        }
        let waits = DoubleDouble::from(2.0 * wait);
        let cycle = match ends {
            Ends::Once => DoubleDouble::ZERO,
            Ends::BackAndForth => sum.plus(sum).plus(waits),
            Ends::Loop => sum.plus(closing).plus(waits),
        };
        Route {
            places,
            reached,
            closing: closing.high,
            cycle: cycle.times(rate),
            ease,
            ease_over,
            curve,
            ends,
            wait,
            rate,
        }
    }

    /// The places, as the route visits them.
    #[must_use]
    pub fn places(&self) -> &[DVec2] {
        &self.places
    }

    /// Whether it goes back to where it began along a leg of its own.
    #[must_use]
    pub fn closes(&self) -> bool {
        self.ends == Ends::Loop && self.places.len() > 1
    }

    /// How long the way from the first place to the last takes, s.
    #[must_use]
    pub fn seconds(&self) -> f64 {
        self.reached[self.reached.len() - 1]
    }

    /// After how many seconds the platform is where it began and does the same again. `None` if it goes only
    /// once, or stays.
    #[must_use]
    pub fn cycle_seconds(&self) -> Option<f64> {
        (self.cycle.high > 0.0 && self.seconds() > 0.0).then_some(self.cycle.high / self.rate)
    }

    /// The greatest speed along it, px/s.
    pub fn fastest(&self) -> f64 {
        let speed = |length: f64, seconds: f64| if seconds > 0.0 { length / seconds } else { 0.0 };
        let length = |leg: usize| match self.curve.get(leg) {
            Some(leg) => leg.length(),
            None => (self.places[(leg + 1) % self.places.len()] - self.places[leg]).length(),
        };
        let legs = self.reached.windows(2).enumerate();
        let mut mean = legs.map(|(leg, reached)| speed(length(leg), reached[1] - reached[0])).fold(0.0, f64::max);
        if self.closes() {
            mean = mean.max(speed(length(self.places.len() - 1), self.closing));
        }
        match self.ease {
            Ease::Linear => mean,
            // In the middle of a leg.
            Ease::Smooth => 1.5 * mean,
        }
    }

    /// Where the corner of a platform is that was set off so many ticks ago, px, y down, rounded to 2^-32 px.
    #[must_use]
    pub fn place(&self, ticks: u64) -> DVec2 {
        let Some(seconds) = self.seconds_into_cycle(ticks) else { return self.places[0] };
        let trip = self.seconds();
        if seconds < trip {
            return self.place_on_the_way(seconds);
        }
        let last = self.places[self.places.len() - 1];
        let back = seconds - trip - self.wait;
        match self.ends {
            Ends::Once => last,
            _ if back <= 0.0 => last,
            Ends::BackAndForth if back >= trip => self.places[0],
            Ends::BackAndForth => self.place_on_the_way(trip - back),
            Ends::Loop if back >= self.closing => self.places[0],
            Ends::Loop => self.on_leg(self.places.len() - 1, self.eased(back / self.closing)),
        }
    }

    /// `None` if the platform never leaves its first place.
    fn seconds_into_cycle(&self, ticks: u64) -> Option<f64> {
        let ticks = ticks as f64;
        if self.ends == Ends::Once {
            return Some(ticks / self.rate);
        }
        if self.seconds() <= 0.0 {
            return None;
        }
        let cycles = (ticks / self.cycle.high) as u64 as f64;
        let mut rest = self.cycle.rest_of(ticks, cycles);
        // The quotient was rounded: one cycle more or less.
        if rest < 0.0 {
            rest += self.cycle.high;
        } else if rest >= self.cycle.high {
            rest -= self.cycle.high;
        }
        Some(rest / self.rate)
    }

    fn place_on_the_way(&self, seconds: f64) -> DVec2 {
        let trip = self.seconds();
        let over_trip = self.ease_over == EaseOver::Trip;
        let seconds = if over_trip { trip * self.eased(seconds / trip) } else { seconds };
        // The first place reached later; legs that take no time are jumped over.
        let next = self.reached.partition_point(|reached| *reached <= seconds).clamp(1, self.places.len() - 1);
        let (from, to) = (self.reached[next - 1], self.reached[next]);
        let share = if to > from { (seconds - from) / (to - from) } else { 1.0 };
        self.on_leg(next - 1, if over_trip { share } else { self.eased(share) })
    }

    fn eased(&self, share: f64) -> f64 {
        match self.ease {
            Ease::Linear => share,
            Ease::Smooth => smooth(share),
        }
    }

    /// After a share of the way of the leg that begins at a place.
    fn on_leg(&self, leg: usize, share: f64) -> DVec2 {
        let share = share.clamp(0.0, 1.0);
        if let Some(leg) = self.curve.get(leg) {
            return round_place(leg.at_length(share));
        }
        let (from, to) = (self.places[leg], self.places[(leg + 1) % self.places.len()]);
        round_place(from + (to - from) * share)
    }

    /// The way from the first place to the last, and back to the first where it closes: points of a line, px, y down.
    #[must_use]
    pub fn line(&self) -> Vec<DVec2> {
        if self.curve.is_empty() {
            let closing = self.closes().then(|| self.places[0]);
            return self.places.iter().copied().chain(closing).collect();
        }
        let first = self.places[0];
        let points = self.curve.iter().flat_map(|leg| (1..=24).map(|point| leg.at_length(f64::from(point) / 24.0)));
        core::iter::once(first).chain(points).collect()
    }

    /// A box around all places, and all of the curve through them.
    pub(super) fn extent(&self) -> Hitbox {
        let first = self.places[0];
        let point = Hitbox { left: first.x, right: first.x, top: first.y, bottom: first.y };
        let curve = self.curve.iter().flat_map(CurvedLeg::hull);
        self.places.iter().copied().chain(curve).fold(point, |extent, place| {
            extent.around(&Hitbox { left: place.x, right: place.x, top: place.y, bottom: place.y })
        })
    }
}

fn length(from: DVec2, to: DVec2) -> DoubleDouble {
    let by = to - from;
    if by.x == 0.0 || by.y == 0.0 {
        return DoubleDouble::from(by.x.abs() + by.y.abs());
    }
    let square = DoubleDouble::product(by.x, by.x).plus(DoubleDouble::product(by.y, by.y));
    let root = DoubleDouble::from(sqrt(square.high));
    // One step of Newton's method makes up for what the root of a double leaves.
    root.plus(square.plus(DoubleDouble::product(root.high, -root.high)).over(2.0 * root.high))
}

/// From rest to rest: `3u^2 - 2u^3`.
pub(super) fn smooth(share: f64) -> f64 {
    share * share * (3.0 - 2.0 * share)
}

/// Rounded to 2^-32 px, half up, so that sums with such places and half widths are exact.
#[inline]
pub(super) fn round_place(place: DVec2) -> DVec2 {
    const STEP: f64 = 1.0 / 4_294_967_296.0;
    // Added to a place within 2^19 px and taken off again it leaves the nearest multiple of a step: doubles
    // about it are a step apart. Cheaper than a floor, but half way it may go down.
    const ROUNDER: f64 = 1_572_864.0;
    let round = |place: f64| {
        let rounded = (place + ROUNDER) - ROUNDER;
        if place - rounded == STEP * 0.5 { rounded + STEP } else { rounded }
    };
    DVec2::new(round(place.x), round(place.y))
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::vec;

    const STRAIGHT: Manner = Manner {
        pace: Pace::Speed(30.0),
        ease: Ease::Linear,
        ease_over: EaseOver::Leg,
        bend: Bend::Straight,
        ends: Ends::Once,
        wait: 0.0,
    };

    fn there_and_back(ends: Ends, ease: Ease, wait: f64) -> Route {
        let places = vec![DVec2::new(0.0, 0.0), DVec2::new(60.0, 0.0), DVec2::new(60.0, -30.0)];
        Route::new(places, Manner { ease, ends, wait, ..STRAIGHT }, 60.0)
    }

    #[test]
    fn places_at_the_ticks_of_a_table() {
        use Ends::{BackAndForth, Loop, Once};
        let table = [
            (BackAndForth, 0.0, 0, (0.0, 0.0)),
            (BackAndForth, 0.0, 60, (30.0, 0.0)),
            (BackAndForth, 0.0, 120, (60.0, 0.0)),
            (BackAndForth, 0.0, 150, (60.0, -15.0)),
            (BackAndForth, 0.0, 180, (60.0, -30.0)),
            (BackAndForth, 0.0, 210, (60.0, -15.0)),
            (BackAndForth, 0.0, 360, (0.0, 0.0)),
            (BackAndForth, 0.0, 361, (0.5, 0.0)),
            (BackAndForth, 0.5, 209, (60.0, -30.0)),
            (BackAndForth, 0.5, 210, (60.0, -30.0)),
            (BackAndForth, 0.5, 211, (60.0, -29.5)),
            (BackAndForth, 0.5, 390, (0.0, 0.0)),
            (BackAndForth, 0.5, 420, (0.0, 0.0)),
            (BackAndForth, 0.5, 421, (0.5, 0.0)),
            (Once, 0.5, 170, (60.0, -25.0)),
            (Once, 0.5, 100_000, (60.0, -30.0)),
        ];
        for (ends, wait, tick, (x, y)) in table {
            let place = there_and_back(ends, Ease::Linear, wait).place(tick);
            assert!((place - DVec2::new(x, y)).length() < 1e-9, "{ends:?} {wait} {tick}: {place}");
        }
        // A loop goes back along a leg of its own: 67.08 px in 134.2 ticks.
        let round = there_and_back(Loop, Ease::Linear, 0.5);
        assert_eq!(round.place(200), DVec2::new(60.0, -30.0));
        let share = (250.0 - 210.0) / (60.0 * 67.082_039_324_993_69 / 30.0);
        assert!((round.place(250) - DVec2::new(60.0 - 60.0 * share, -30.0 + 30.0 * share)).length() < 1e-9);
        assert_eq!(round.place(350), DVec2::ZERO);
    }

    #[test]
    fn a_trip_is_shared_by_length_and_a_smooth_leg_starts_and_ends_at_rest() {
        let places = vec![DVec2::new(0.0, 0.0), DVec2::new(30.0, 0.0), DVec2::new(30.0, 90.0)];
        let route = Route::new(places, Manner { pace: Pace::Trip(4.0), ease: Ease::Smooth, ..STRAIGHT }, 50.0);
        assert_eq!(route.place(50), DVec2::new(30.0, 0.0));
        assert_eq!(route.place(25), DVec2::new(15.0, 0.0));
        assert!(route.place(1).x < 0.04 && route.place(49).x > 29.96);
        assert_eq!(route.place(200), DVec2::new(30.0, 90.0));
    }

    #[test]
    fn after_a_million_ticks_it_stands_where_the_formula_says() {
        // Numbers that no double holds exactly: the formula in whole numbers, of 1/(7*60) of a tick's way.
        let places = vec![DVec2::new(0.0, 0.0), DVec2::new(100.0, 0.0)];
        let route = Route::new(places, Manner { pace: Pace::Speed(700.0), ends: Ends::BackAndForth, ..STRAIGHT }, 60.0);
        for tick in [1_000_000u64, 1_000_001, 12_345_678, 1 << 30] {
            // 100 px take 60/7 ticks: seven ticks' ways are 60 parts of one way.
            let phase = (tick * 7) % 120;
            let along = if phase <= 60 { phase } else { 120 - phase } as f64 / 60.0 * 100.0;
            assert!((route.place(tick).x - along).abs() < 1e-9, "{tick}: {} {along}", route.place(tick).x);
        }
    }

    #[test]
    fn places_are_rounded_half_up() {
        let per_px = 4_294_967_296.0;
        for whole in [0.0, 1.0, -1.0, 7.0, 1e15, -1e15, 2.0e15 + 1.0] {
            for (part, up) in [(-0.5, 0.0), (-0.25, 0.0), (0.25, 0.0), (0.5, 1.0)] {
                let place: f64 = whole / per_px + part / per_px;
                let expected = if place * per_px == whole + part { (whole + up) / per_px } else { continue };
                assert_eq!(round_place(DVec2::splat(place)), DVec2::splat(expected), "{whole} {part}");
            }
        }
    }

    #[test]
    fn a_route_without_length_stays() {
        for ends in [Ends::BackAndForth, Ends::Loop, Ends::Once] {
            for places in [vec![DVec2::new(3.0, 4.0)], vec![DVec2::new(3.0, 4.0); 3]] {
                let route = Route::new(places, Manner { pace: Pace::Trip(1.0), ends, wait: 0.3, ..STRAIGHT }, 60.0);
                assert!([0, 1, 77].into_iter().all(|tick| route.place(tick) == DVec2::new(3.0, 4.0)));
            }
        }
    }

    #[test]
    fn a_trip_that_is_eased_as_a_whole_is_at_rest_at_its_ends_alone() {
        let places = vec![DVec2::new(0.0, 0.0), DVec2::new(60.0, 0.0), DVec2::new(60.0, -60.0)];
        let whole = Manner { ease: Ease::Smooth, ease_over: EaseOver::Trip, ends: Ends::BackAndForth, ..STRAIGHT };
        let route = Route::new(places, whole, 60.0);
        // 120 px in 4 s: half way after half of the time, through the corner at one and a half times the mean speed.
        assert_eq!(route.place(120), DVec2::new(60.0, 0.0));
        assert!((route.place(121) - route.place(120)).length() > 0.74);
        assert!((route.place(1) - route.place(0)).length() < 0.01);
        for tick in 0..=240 {
            let u = tick as f64 / 240.0;
            let along = 120.0 * u * u * (3.0 - 2.0 * u);
            let place = if along <= 60.0 { DVec2::new(along, 0.0) } else { DVec2::new(60.0, 60.0 - along) };
            assert!((route.place(tick) - place).length() < 1e-9, "{tick}");
            assert_eq!(route.place(480 - tick), route.place(tick), "back the same way");
        }
    }

    #[test]
    fn on_a_round_route_the_speed_is_that_of_the_way_along_the_curve() {
        let places = vec![DVec2::new(0.0, 0.0), DVec2::new(60.0, 0.0), DVec2::new(60.0, -30.0), DVec2::new(0.0, -30.0)];
        for ends in [Ends::Once, Ends::BackAndForth, Ends::Loop] {
            let route = Route::new(places.clone(), Manner { bend: Bend::Round, ends, ..STRAIGHT }, 60.0);
            let ticks = (route.seconds() * 60.0) as u64;
            // 30 px/s are half a px a tick, all along; longer than the straight way.
            assert!(route.seconds() > 5.0, "{}", route.seconds());
            for tick in 1..ticks {
                let way = (route.place(tick) - route.place(tick - 1)).length();
                assert!((way - 0.5).abs() < 0.02, "{ends:?} {tick}: {way}");
                let extent = route.extent();
                let place = route.place(tick);
                assert!(
                    place.x <= extent.right
                        && place.x >= extent.left
                        && place.y <= extent.bottom
                        && place.y >= extent.top
                );
            }
            let line = route.line();
            assert_eq!(line[0], places[0]);
            assert_eq!(line[line.len() - 1], if ends == Ends::Loop { places[0] } else { places[3] });
        }
    }
}

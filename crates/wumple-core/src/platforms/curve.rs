//! A smooth curve through places, gone along by its length.

use alloc::vec::Vec;

use glam::DVec2;

use crate::space::float::sqrt;

/// A leg is measured in so many pieces.
const PIECES: usize = 64;

/// The part of a curve between two places: a cubic, whose directions at its ends are those of the curve there.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct CurvedLeg {
    from: DVec2,
    to: DVec2,
    /// Where the cubic leads at its ends, in the time of the leg, px.
    from_velocity: DVec2,
    to_velocity: DVec2,
    /// How far along it each of its pieces ends, px; the first is 0.
    lengths: Vec<f64>,
}

impl CurvedLeg {
    fn new(from: DVec2, to: DVec2, from_velocity: DVec2, to_velocity: DVec2) -> CurvedLeg {
        let mut leg = CurvedLeg { from, to, from_velocity, to_velocity, lengths: Vec::from([0.0]) };
        let (mut before, mut length) = (from, 0.0);
        for piece in 1..=PIECES {
            let place = leg.at_share(piece as f64 / PIECES as f64);
            length += distance(before, place);
            leg.lengths.push(length);
            before = place;
        }
        leg
    }

    /// How long it is, px.
    pub(super) fn length(&self) -> f64 {
        self.lengths[PIECES]
    }

    /// The cubic (Hermite's): at 0 its beginning, at 1 its end.
    fn at_share(&self, share: f64) -> DVec2 {
        let (square, cube) = (share * share, share * share * share);
        self.from * (2.0 * cube - 3.0 * square + 1.0)
            + self.to * (3.0 * square - 2.0 * cube)
            + self.from_velocity * (cube - 2.0 * square + share)
            + self.to_velocity * (cube - square)
    }

    /// The place after a share of its length.
    pub(super) fn at_length(&self, share: f64) -> DVec2 {
        if share >= 1.0 {
            return self.to;
        }
        let along = share * self.length();
        let piece = self.lengths.partition_point(|length| *length <= along).clamp(1, PIECES);
        let (from, to) = (self.lengths[piece - 1], self.lengths[piece]);
        let within = if to > from { (along - from) / (to - from) } else { 0.0 };
        self.at_share((piece as f64 - 1.0 + within) / PIECES as f64)
    }

    /// Points around which a box holds all of it: those that draw the cubic towards them.
    pub(super) fn hull(&self) -> [DVec2; 4] {
        [self.from, self.from + self.from_velocity / 3.0, self.to - self.to_velocity / 3.0, self.to]
    }
}

/// The legs of a curve through places; the last of a closed one leads back to the first. Places in which it does not move on are
/// corners.
pub(super) fn curve_through(places: &[DVec2], closed: bool) -> Vec<CurvedLeg> {
    let count = places.len();
    let legs = if closed { count } else { count.saturating_sub(1) };
    let place = |index: usize| places[index % count];
    // How fast the curve goes through a place, px for each px of the straight way: between the ways before it and after it, the
    // shorter of them counting more.
    let direction = |index: usize| -> DVec2 {
        let way = |from: usize| {
            let by = place(from + 1) - place(from);
            (by, distance(place(from), place(from + 1)))
        };
        let before = (closed || index > 0).then(|| way((index + count - 1) % count));
        let after = (closed || index + 1 < count).then(|| way(index % count));
        match (before, after) {
            (Some((one, one_length)), Some((other, other_length))) if one_length > 0.0 && other_length > 0.0 => {
                (one / one_length * other_length + other / other_length * one_length) / (one_length + other_length)
            }
            _ => DVec2::ZERO,
        }
    };
    let leg = |index: usize| {
        let (from, to) = (place(index), place(index + 1));
        let straight = distance(from, to);
        // At an open end the curve leads where the leg does.
        let along = |found: DVec2| if found == DVec2::ZERO { to - from } else { found * straight };
        CurvedLeg::new(from, to, along(direction(index % count)), along(direction((index + 1) % count)))
    };
    // An open end has one way only.
    (0..legs)
        .map(|index| {
            let mut leg = leg(index);
            let last = index + 1 == legs;
            if !closed && (index == 0 || last) {
                let straight = leg.to - leg.from;
                let from_velocity = if index == 0 { straight } else { leg.from_velocity };
                let to_velocity = if last { straight } else { leg.to_velocity };
                leg = CurvedLeg::new(leg.from, leg.to, from_velocity, to_velocity);
            }
            leg
        })
        .collect()
}

fn distance(from: DVec2, to: DVec2) -> f64 {
    sqrt((to - from).length_squared())
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::vec;

    #[test]
    fn a_curve_goes_through_its_places_without_a_corner_and_by_its_length() {
        let places = vec![DVec2::new(0.0, 0.0), DVec2::new(80.0, 10.0), DVec2::new(90.0, 60.0), DVec2::new(10.0, 90.0)];
        for closed in [false, true] {
            let legs = curve_through(&places, closed);
            assert_eq!(legs.len(), if closed { 4 } else { 3 });
            for (index, leg) in legs.iter().enumerate() {
                assert_eq!((leg.at_length(0.0), leg.at_length(1.0)), (places[index], places[(index + 1) % 4]));
                // Equal shares of the time are equal ways, but for what the pieces leave.
                let steps: Vec<DVec2> = (0..=200).map(|step| leg.at_length(f64::from(step) / 200.0)).collect();
                let ways: Vec<f64> = steps.windows(2).map(|two| distance(two[0], two[1])).collect();
                let even = leg.length() / 200.0;
                assert!(ways.iter().all(|way| (way - even).abs() < 0.02 * even), "{ways:?}");
                // It stays within its hull.
                let hull = leg.hull();
                let most = |of: fn(&DVec2) -> f64| hull.iter().map(of).fold(f64::MIN, f64::max);
                assert!(steps.iter().all(|place| place.x <= most(|p| p.x) + 1e-9 && place.y <= most(|p| p.y) + 1e-9));
            }
            for pair in legs.windows(2) {
                let (end, begin) = (pair[0].at_share(1.0 - 1e-6), pair[1].at_share(1e-6));
                let into = (places_end(&pair[0]) - end).normalize();
                let out = (begin - places_end(&pair[0])).normalize();
                assert!((into - out).length() < 1e-3, "no corner: {into} {out}");
            }
        }
    }

    fn places_end(leg: &CurvedLeg) -> DVec2 {
        leg.to
    }

    #[test]
    fn two_places_are_a_straight_way_and_one_is_none() {
        let legs = curve_through(&[DVec2::ZERO, DVec2::new(30.0, 40.0)], false);
        assert!((legs[0].length() - 50.0).abs() < 1e-9);
        assert!((legs[0].at_length(0.5) - DVec2::new(15.0, 20.0)).length() < 1e-9);
        assert!(curve_through(&[DVec2::ZERO], false).is_empty());
        // Twice the same place is no way, and not a number nowhere.
        let stays = curve_through(&[DVec2::ZERO, DVec2::ZERO, DVec2::new(8.0, 0.0)], true);
        assert!(stays.iter().all(|leg| leg.at_length(0.3).is_finite()));
    }
}

use glam::DVec2;

/// What becomes of a stick before it is held: nothing within a dead zone, since no stick rests quite in its middle, and
/// fine steering near it.
///
/// ```
/// use wumple_core::{Buttons, StickCurve};
///
/// let curve = StickCurve { dead_zone: 0.25, power: 2 };
/// assert_eq!(curve.of(0.2), 0.0);
/// assert_eq!(curve.of(0.625), 0.25); // half of what is left, squared
/// assert_eq!(curve.of(-1.0), -1.0);
/// let held = Buttons { steer: curve.of(0.625), ..Buttons::NONE };
/// # let _ = held;
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
pub struct StickCurve {
    /// Up to this much, from 0 to below 1, it counts as not pushed; beyond, from 0 up again. Held within that range.
    pub dead_zone: f64,
    /// 1: as far as it is pushed; 2: squared, so that a little is less; 3 and more: still less. 0 counts as 1.
    pub power: u32,
}

/// No dead zone is greater.
const GREATEST_ZONE: f64 = 0.99;

impl StickCurve {
    /// As it is.
    pub const NONE: StickCurve = StickCurve { dead_zone: 0.0, power: 1 };

    /// What becomes of one part of a stick, from -1 to 1. Not a number is 0.
    #[must_use]
    pub fn of(&self, pushed: f64) -> f64 {
        self.length(pushed.abs()).copysign(pushed)
    }

    /// What becomes of both parts together: the dead zone is a circle, and the direction is kept.
    #[must_use]
    pub fn of_both(&self, pushed: DVec2) -> DVec2 {
        let length = libm::hypot(pushed.x, pushed.y);
        if length > 0.0 { pushed * (self.length(length) / length) } else { DVec2::ZERO }
    }

    fn length(&self, pushed: f64) -> f64 {
        // Written so that NaN is no zone, and no push.
        let zone = if self.dead_zone > 0.0 { self.dead_zone.min(GREATEST_ZONE) } else { 0.0 };
        let beyond = if pushed > zone { (pushed.min(1.0) - zone) / (1.0 - zone) } else { 0.0 };
        (1..self.power.clamp(1, 16)).fold(beyond, |length, _| length * beyond)
    }
}

impl Default for StickCurve {
    fn default() -> StickCurve {
        StickCurve::NONE
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_curve_is_odd_rises_and_ends_at_one() {
        for dead_zone in [0.0, 0.1, 0.5, 0.99, 2.0, -1.0, f64::NAN] {
            for power in 0..6 {
                let curve = StickCurve { dead_zone, power };
                let mut before = -1.0;
                for step in -200..=200 {
                    let pushed = f64::from(step) / 200.0;
                    let found = curve.of(pushed);
                    assert!(found >= before && found.abs() <= pushed.abs() + 1e-15, "{curve:?} {pushed}: {found}");
                    assert_eq!(curve.of(-pushed), -found);
                    before = found;
                }
                assert_eq!((curve.of(1.0), curve.of(7.0)), (1.0, 1.0));
                assert_eq!(curve.of(f64::NAN).abs(), 0.0);
            }
        }
    }

    #[test]
    fn both_parts_keep_their_direction() {
        let curve = StickCurve { dead_zone: 0.2, power: 1 };
        assert_eq!(curve.of_both(DVec2::new(0.1, 0.1)), DVec2::ZERO);
        let both = curve.of_both(DVec2::new(0.36, 0.48));
        assert!((both - DVec2::new(0.3, 0.4)).length() < 1e-12, "{both}");
        assert_eq!(curve.of_both(DVec2::new(f64::NAN, 0.5)), DVec2::ZERO);
    }
}

//! What a number is where nothing is said of it, and zero would not do.

/// Ticks a second.
pub(super) const fn rate() -> f64 {
    60.0
}

/// How far beside a hitbox a wall is felt, px.
pub(super) const fn wall_probe() -> f64 {
    1.0
}

/// How far below the feet a ramp is followed down: half a tile of 16 px.
pub(super) const fn ramp_follow() -> f64 {
    8.0
}

/// No speed is too great.
pub(super) const fn no_top_speed() -> f64 {
    super::LIMIT_SPEED
}

/// For what is so unless it is said otherwise.
#[cfg(feature = "serde")]
pub(super) const fn yes() -> bool {
    true
}

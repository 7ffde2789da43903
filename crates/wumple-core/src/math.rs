//! The few float functions the crate needs, in one place, so that every machine computes the same bits.

/// The greatest whole number not above `x`.
#[inline]
pub(crate) fn floor(x: f64) -> f64 {
    libm::floor(x)
}

/// Half up: the whole number nearest to `x`.
#[inline]
pub(crate) fn round_half_up(x: f64) -> f64 {
    floor(x + 0.5)
}

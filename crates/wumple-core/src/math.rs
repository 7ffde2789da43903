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

/// The least whole number not below `x`.
#[inline]
pub(crate) fn ceil(x: f64) -> f64 {
    libm::ceil(x)
}

/// The square root.
#[inline]
pub(crate) fn sqrt(x: f64) -> f64 {
    libm::sqrt(x)
}

/// A time that admits or forbids, in whole ticks.
pub(crate) fn gate_ticks(seconds: f64, rate: f64) -> u64 {
    floor(seconds * rate + 0.5 + 1e-9) as u64
}

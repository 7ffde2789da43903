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

/// A number as the sum of two doubles, about twice as exact as one. Dekker's and Knuth's error-free sums and
/// products.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct DoubleDouble {
    pub(crate) high: f64,
    pub(crate) low: f64,
}

impl From<f64> for DoubleDouble {
    fn from(high: f64) -> DoubleDouble {
        DoubleDouble { high, low: 0.0 }
    }
}

impl DoubleDouble {
    pub(crate) const ZERO: DoubleDouble = DoubleDouble { high: 0.0, low: 0.0 };

    fn sum(a: f64, b: f64) -> DoubleDouble {
        let high = a + b;
        let of_b = high - a;
        DoubleDouble { high, low: (a - (high - of_b)) + (b - of_b) }
    }

    pub(crate) fn product(a: f64, b: f64) -> DoubleDouble {
        let high = a * b;
        DoubleDouble { high, low: libm::fma(a, b, -high) }
    }

    pub(crate) fn plus(self, other: DoubleDouble) -> DoubleDouble {
        let sum = DoubleDouble::sum(self.high, other.high);
        DoubleDouble::sum(sum.high, sum.low + self.low + other.low)
    }

    pub(crate) fn times(self, by: f64) -> DoubleDouble {
        let product = DoubleDouble::product(self.high, by);
        DoubleDouble::sum(product.high, product.low + self.low * by)
    }

    pub(crate) fn over(self, by: f64) -> DoubleDouble {
        self.over_double_double(DoubleDouble::from(by))
    }

    pub(crate) fn over_double_double(self, by: DoubleDouble) -> DoubleDouble {
        let first = self.high / by.high;
        let rest = self.plus(by.times(-first));
        DoubleDouble::sum(first, rest.high / by.high)
    }

    /// `of - times * self`, for whole numbers of times.
    pub(crate) fn rest_of(self, of: f64, times: f64) -> f64 {
        // The upper half of the digits, so that its product with fewer than 2^26 times is exact.
        let upper = f64::from_bits(self.high.to_bits() & !((1 << 27) - 1));
        ((of - times * upper) - times * (self.high - upper)) - times * self.low
    }
}

/// How the speed along the ground changes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RunRates {
    /// The speed aimed at, px/s.
    pub top_speed: f64,
    /// Towards the held direction.
    pub acceleration: RunRate,
    /// With none held, or while faster than aimed at.
    pub braking: RunRate,
    /// While the speed opposes the held direction.
    pub turning: RunRate,
}

/// How fast a speed changes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum RunRate {
    /// At once.
    Instant,
    /// px/s^2.
    PerSecond(f64),
}

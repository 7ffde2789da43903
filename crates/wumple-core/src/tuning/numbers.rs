/// How a character moves, as written and not yet checked: px, seconds, upward positive.
#[derive(Clone, Debug, PartialEq)]
pub struct TuningNumbers {
    /// Simulation ticks a second, from 1 to 10,000.
    pub rate: f64,
    /// The hitbox and what it feels around it.
    pub body: BodyNumbers,
    /// Running on the ground, and steering in the air.
    pub run: RunNumbers,
    /// Falling.
    pub fall: FallNumbers,
    /// Jumping, if the character can.
    pub jump: Option<JumpNumbers>,
}

impl TuningNumbers {
    /// A body of this width and height (px) that runs at `top_speed` (px/s) and reaches it at once, at
    /// 60 ticks a second, under a gravity of 900 px/s^2. It cannot jump yet.
    pub fn new(width: f64, height: f64, top_speed: f64) -> TuningNumbers {
        TuningNumbers {
            rate: 60.0,
            body: BodyNumbers { width, height, wall_probe: 1.0 },
            run: RunNumbers {
                top_speed,
                acceleration: Acceleration::Instant,
                braking: Acceleration::Instant,
                turning: Acceleration::Instant,
            },
            fall: FallNumbers { top_speed: super::LIMIT_SPEED, gravity: Some(900.0) },
            jump: None,
        }
    }

    /// The same with a jump `height` px high that takes `time_to_apex` s to get there.
    pub fn with_jump(mut self, height: f64, time_to_apex: f64) -> TuningNumbers {
        self.fall.gravity = None;
        self.jump = Some(JumpNumbers { shape: JumpShape::HeightAndTime { height, time_to_apex } });
        self
    }
}

/// The hitbox and what it feels around it.
#[derive(Clone, Debug, PartialEq)]
pub struct BodyNumbers {
    /// Width, px, above 0. Rounded to 1/1024 px.
    pub width: f64,
    /// Height, px, above 0. Rounded to 1/1024 px.
    pub height: f64,
    /// How far beside the hitbox a wall is felt, px, at least 0. Rounded to 1/1024 px.
    pub wall_probe: f64,
}

/// How fast a speed changes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Acceleration {
    /// At once.
    Instant,
    /// By this much, px/s^2, at least 0.
    Rate(f64),
    /// From rest to the top speed, or back, in this time, s. 0 is the same as [`Acceleration::Instant`].
    Time(f64),
}

/// Running.
#[derive(Clone, Debug, PartialEq)]
pub struct RunNumbers {
    /// The speed aimed at while a direction is held, px/s, at least 0.
    pub top_speed: f64,
    /// Towards the held direction.
    pub acceleration: Acceleration,
    /// With no direction held, or while faster than aimed at.
    pub braking: Acceleration,
    /// While the speed opposes the held direction.
    pub turning: Acceleration,
}

/// Falling.
#[derive(Clone, Debug, PartialEq)]
pub struct FallNumbers {
    /// No fall is faster, px/s, above 0.
    pub top_speed: f64,
    /// Gravity, px/s^2, above 0: needed without a jump, refused beside one, which says its own.
    pub gravity: Option<f64>,
}

/// Jumping.
#[derive(Clone, Debug, PartialEq)]
pub struct JumpNumbers {
    /// How high and how fast.
    pub shape: JumpShape,
}

/// The two numbers that say what a full jump is; each pair gives the other.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum JumpShape {
    /// The height of the apex and the time it takes.
    HeightAndTime {
        /// px, above 0.
        height: f64,
        /// s, above 0.
        time_to_apex: f64,
    },
    /// The speed at take-off and the gravity while rising.
    SpeedAndGravity {
        /// px/s, above 0.
        speed: f64,
        /// px/s^2, above 0.
        gravity: f64,
    },
}

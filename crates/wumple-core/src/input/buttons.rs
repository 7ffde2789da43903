/// Declares the buttons; whatever goes through all of them goes by this. A direction says which way it is of which
/// stick.
macro_rules! buttons {
    ($($(#[$doc:meta])+ $name:ident $(is $stick:ident of $sign:literal)?,)+) => {
        /// What the player holds during one tick: buttons, or a stick instead of the four directions.
        ///
        /// `Buttons::NONE` is the start for struct update syntax: `Buttons { right: true, ..Buttons::NONE }`.
        #[derive(Clone, Copy, Debug, Default, PartialEq)]
        #[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default))]
        pub struct Buttons {
            $($(#[$doc])+ pub $name: bool,)+
            /// A stick's sideways part, from -1 (left) to 1 (right); it scales the target speed. Used while
            /// neither left nor right is held. Held within its range; not a number counts as 0.
            pub steer: f64,
            /// A stick's upward part, from -1 (down) to 1 (up). Used while neither up nor down is held.
            pub climb: f64,
        }

        impl Buttons {
            /// Nothing held.
            pub const NONE: Buttons = Buttons { $($name: false,)+ steer: 0.0, climb: 0.0 };

            /// All buttons, in the order in which they are shown.
            pub const ALL: &'static [Button] = &[$(Button {
                name: stringify!($name),
                held: |buttons| buttons.$name,
                hold: |buttons, held| buttons.$name = held,
                stick: stick!($(Stick::$stick, $sign)?),
            }),+];
        }
    };
}

macro_rules! stick {
    () => {
        None
    };
    ($stick:expr, $sign:literal) => {
        Some(($stick, $sign))
    };
}

buttons! {
    /// Run or steer to the left.
    left is Steer of -1.0,
    /// Run or steer to the right.
    right is Steer of 1.0,
    /// Up.
    up is Climb of 1.0,
    /// Down.
    down is Climb of -1.0,
    /// Jump.
    jump,
    /// Hold on to a wall.
    grab,
}

/// One of the buttons.
#[derive(Clone, Copy, Debug)]
pub struct Button {
    /// Its word in files and figures.
    pub name: &'static str,
    held: fn(&Buttons) -> bool,
    hold: fn(&mut Buttons, bool),
    /// Of a direction: the stick that can be pushed instead, and which way, -1 or 1.
    stick: Option<(Stick, f64)>,
}

/// One of the two parts of a stick.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Stick {
    Steer,
    Climb,
}

impl Button {
    /// Whether it is held.
    #[inline]
    #[must_use]
    pub fn is_held(&self, buttons: &Buttons) -> bool {
        (self.held)(buttons)
    }

    /// Holds it, or lets it go.
    #[inline]
    pub fn hold(&self, buttons: &mut Buttons, held: bool) {
        (self.hold)(buttons, held);
    }

    /// Whether a stick can be pushed instead.
    #[must_use]
    pub fn is_direction(&self) -> bool {
        self.stick.is_some()
    }

    /// How far it counts as held, from 0 to 1: a stick counts as far as it is pushed, and opposite directions as neither.
    #[must_use]
    pub fn amount(&self, buttons: &Buttons) -> f64 {
        match self.stick {
            Some((Stick::Steer, sign)) => (buttons.steering() * sign).max(0.0),
            Some((Stick::Climb, sign)) => (buttons.climbing() * sign).max(0.0),
            None => f64::from(u8::from(self.is_held(buttons))),
        }
    }

    /// How far a stick is pushed this way, from 0 to 1, whatever buttons are held.
    #[must_use]
    pub fn pushed(&self, buttons: &Buttons) -> f64 {
        match self.stick {
            Some((Stick::Steer, sign)) => (buttons.steer * sign).max(0.0),
            Some((Stick::Climb, sign)) => (buttons.climb * sign).max(0.0),
            None => 0.0,
        }
    }

    /// Pushes the stick this way by a part, from 0 to 1, beside what it is pushed already. Nothing if it has none.
    pub fn push(&self, buttons: &mut Buttons, part: f64) {
        match self.stick {
            Some((Stick::Steer, sign)) => buttons.steer += sign * part,
            Some((Stick::Climb, sign)) => buttons.climb += sign * part,
            None => {}
        }
    }
}

/// Left or right.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Direction {
    /// Towards smaller x.
    Left,
    /// Towards greater x.
    Right,
}

impl Direction {
    /// The other one.
    #[inline]
    #[must_use]
    pub fn opposite(self) -> Direction {
        match self {
            Direction::Left => Direction::Right,
            Direction::Right => Direction::Left,
        }
    }

    /// -1 to the left, 1 to the right.
    #[inline]
    #[must_use]
    pub fn sign(self) -> f64 {
        match self {
            Direction::Left => -1.0,
            Direction::Right => 1.0,
        }
    }

    /// The word used in traces.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Direction::Left => "left",
            Direction::Right => "right",
        }
    }
}

impl Buttons {
    /// The share of the top speed aimed at, from -1 (left) to 1 (right). Left and right together are
    /// neither.
    #[inline]
    #[must_use]
    pub fn steering(&self) -> f64 {
        axis(self.left, self.right, self.steer)
    }

    /// The share of the climbing speed aimed at, from -1 (down) to 1 (up). Up and down together are
    /// neither.
    #[inline]
    #[must_use]
    pub fn climbing(&self) -> f64 {
        axis(self.down, self.up, self.climb)
    }

    /// Whether down is held, or the stick pushed down.
    #[inline]
    #[must_use]
    pub fn is_down(&self) -> bool {
        if self.up || self.down { self.down && !self.up } else { self.climb < 0.0 }
    }

    /// Whether up is held, or the stick pushed up.
    #[inline]
    #[must_use]
    pub fn is_up(&self) -> bool {
        self.climbing() > 0.0
    }

    /// The one direction held, if it is one.
    #[inline]
    #[must_use]
    pub fn direction(&self) -> Option<Direction> {
        Intent::of(self).direction()
    }
}

/// Where the player wants to go during one tick: worked out once from what is held.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Intent {
    /// The share of the top speed aimed at, from -1 (left) to 1 (right).
    pub(crate) steering: f64,
    /// The share of the climbing speed aimed at, from -1 (down) to 1 (up).
    pub(crate) climbing: f64,
}

impl Intent {
    /// Nowhere.
    pub(crate) const NONE: Intent = Intent { steering: 0.0, climbing: 0.0 };

    #[inline]
    pub(crate) fn of(buttons: &Buttons) -> Intent {
        Intent { steering: buttons.steering(), climbing: buttons.climbing() }
    }

    /// The same where a direction counts as held besides: the one against it makes neither of both.
    #[inline]
    pub(crate) fn running(buttons: &Buttons, by_itself: Option<Direction>) -> Intent {
        let intent = Intent::of(buttons);
        match by_itself {
            None => intent,
            Some(going) if intent.is_towards(going.opposite()) => Intent { steering: 0.0, ..intent },
            Some(going) => Intent { steering: going.sign(), ..intent },
        }
    }

    #[inline]
    pub(crate) fn down(&self) -> bool {
        self.climbing < 0.0
    }

    #[inline]
    pub(crate) fn up(&self) -> bool {
        self.climbing > 0.0
    }

    /// Whether this direction is the one held.
    #[inline]
    pub(crate) fn is_towards(&self, direction: Direction) -> bool {
        self.steering * direction.sign() > 0.0
    }

    /// The same, with this direction counting as none.
    #[inline]
    pub(crate) fn without(self, direction: Direction) -> Intent {
        if self.is_towards(direction) { Intent { steering: 0.0, ..self } } else { self }
    }

    /// The direction aimed at, if there is one.
    #[inline]
    pub(crate) fn direction(&self) -> Option<Direction> {
        if self.steering == 0.0 {
            return None;
        }
        Some(if self.steering > 0.0 { Direction::Right } else { Direction::Left })
    }
}

#[inline]
fn axis(negative: bool, positive: bool, stick: f64) -> f64 {
    match (negative, positive) {
        (true, true) => 0.0,
        (true, false) => -1.0,
        (false, true) => 1.0,
        (false, false) if stick.is_nan() => 0.0,
        (false, false) => stick.clamp(-1.0, 1.0),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn opposite_directions_are_neither_and_a_stick_stays_in_range() {
        let table = [
            (Buttons::NONE, 0.0, None),
            (Buttons { left: true, ..Buttons::NONE }, -1.0, Some(Direction::Left)),
            (Buttons { right: true, ..Buttons::NONE }, 1.0, Some(Direction::Right)),
            (Buttons { left: true, right: true, ..Buttons::NONE }, 0.0, None),
            (Buttons { left: true, right: true, steer: 0.5, ..Buttons::NONE }, 0.0, None),
            (Buttons { steer: 0.6, ..Buttons::NONE }, 0.6, Some(Direction::Right)),
            (Buttons { steer: -7.0, ..Buttons::NONE }, -1.0, Some(Direction::Left)),
            (Buttons { steer: f64::NAN, ..Buttons::NONE }, 0.0, None),
            (Buttons { steer: -0.0, ..Buttons::NONE }, 0.0, None),
        ];
        for (buttons, steering, direction) in table {
            assert_eq!((buttons.steering(), buttons.direction()), (steering, direction), "{buttons:?}");
        }
        assert_eq!(Buttons { up: true, ..Buttons::NONE }.climbing(), 1.0);
        assert_eq!(Buttons { down: true, climb: 1.0, ..Buttons::NONE }.climbing(), -1.0);
        for bits in 0..12 {
            let climb = [0.0, 0.5, -0.5][bits / 4];
            let buttons = Buttons { up: bits & 1 != 0, down: bits & 2 != 0, climb, ..Buttons::NONE };
            assert_eq!(buttons.is_down(), buttons.climbing() < 0.0, "{buttons:?}");
        }
    }
}

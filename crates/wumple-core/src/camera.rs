//! The part of a level that is seen: a view that follows a character, as a pure function from tick to tick.
//!
//! It stands beside the world and asks nothing of it: [`Camera::follow`] is told where the character is, after each tick.

use core::fmt;

use glam::DVec2;

use crate::input::Facing;
use crate::space::Hitbox;
use crate::space::float::round_half_up;
use crate::tuning::{LIMIT_LENGTH, LIMIT_SPEED};

/// Along which axes, and which ways, a view follows.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Follow {
    /// Both.
    #[default]
    Both,
    /// Left and right.
    Sideways,
    /// Up and down.
    Upright,
    /// To the left, and never back.
    OnlyLeft,
    /// To the right, and never back.
    OnlyRight,
    /// Up, and never back.
    OnlyUp,
    /// Down, and never back.
    OnlyDown,
}

/// How a view follows.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct CameraNumbers {
    /// Width and height of what is seen, px of the level, above 0.
    pub view: DVec2,
    /// Along which axes, and which ways.
    pub follow: Follow,
    /// Width and height of a box in the middle of the view; while the middle of the hitbox is in it, nothing moves. px, at least 0.
    pub still: DVec2,
    /// How far ahead of the character it looks, where that faces, px, at least 0.
    pub ahead: f64,
    /// How long it takes to look ahead so far, s, above 0.
    pub ahead_over: f64,
    /// Whether it stays within the level: a level that is smaller than the view is in its middle.
    pub within_level: bool,
    /// How many px of the screen one px of the level takes, above 0.
    pub scale: f64,
}

impl CameraNumbers {
    /// A view of this size, px, that follows both ways within the level, without a box and without looking ahead.
    #[must_use]
    pub fn new(view: DVec2) -> CameraNumbers {
        CameraNumbers {
            view,
            follow: Follow::Both,
            still: DVec2::ZERO,
            ahead: 0.0,
            ahead_over: 0.5,
            within_level: true,
            scale: 1.0,
        }
    }

    /// Whether every number is within its bounds.
    ///
    /// # Errors
    ///
    /// The first that is not.
    pub fn check(&self) -> Result<(), CameraError> {
        let CameraNumbers { view, still, ahead, ahead_over, scale, .. } = *self;
        // Written so that NaN is refused as well.
        let within = |size: f64, least: f64, most: f64| size >= least && size <= most;
        if !(view.x > 0.0 && view.y > 0.0 && view.max_element() <= LIMIT_LENGTH) {
            return Err(CameraError::BadView);
        }
        if !(within(still.x, 0.0, view.x) && within(still.y, 0.0, view.y)) {
            return Err(CameraError::BadStill);
        }
        if !(within(ahead, 0.0, view.min_element() * 0.5) && ahead_over > 0.0) {
            return Err(CameraError::BadAhead);
        }
        if !(scale > 0.0 && scale <= 1000.0) {
            return Err(CameraError::BadScale);
        }
        Ok(())
    }
}

/// What is wrong with the numbers of a camera.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum CameraError {
    /// The view has no size, or is larger than coordinates go.
    BadView,
    /// The box in which nothing moves has a size below 0, or is larger than the view.
    BadStill,
    /// It looks ahead by less than 0, by more than half of the view, or in no time.
    BadAhead,
    /// The scale is not above 0, or above a thousand.
    BadScale,
}

impl fmt::Display for CameraError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            CameraError::BadView => "the view must have a width and a height above 0, within coordinates",
            CameraError::BadStill => "the box in which nothing moves must be from 0 to the size of the view",
            CameraError::BadAhead => "it must look ahead by 0 to half of the view, in a time above 0",
            CameraError::BadScale => "the scale must be above 0 and at most 1000",
        })
    }
}

impl core::error::Error for CameraError {}

/// A view that follows a character.
///
/// ```
/// use wumple_core::camera::{Camera, CameraNumbers};
/// use wumple_core::{Buttons, DVec2, Edges, Grid, Terrain, Tuning, TuningNumbers, World};
///
/// let map = Grid::from_rows(&["..............................", "##############################"], 16.0, Edges::default())?;
/// let mut world = World::new(&map);
/// let tuning = Tuning::check(&TuningNumbers::new(10.0, 12.0, 120.0))?;
/// let dab = world.add_character(tuning, DVec2::new(40.0, 16.0))?;
/// let level = wumple_core::Hitbox { left: 0.0, right: map.width(), top: 0.0, bottom: map.height() };
/// let numbers = CameraNumbers { still: DVec2::new(32.0, 16.0), ..CameraNumbers::new(DVec2::new(160.0, 32.0)) };
/// let mut camera = Camera::new(&numbers, level, world.character(dab), 60.0)?;
/// for _ in 0..60 {
///     world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
///     camera.follow(world.character(dab));
/// }
/// assert_eq!(camera.view().left, 160.0 - 16.0 - 80.0); // the middle is at the right edge of the box
/// let place = DVec2::new(150.0, 10.0);
/// assert_eq!(camera.to_world(camera.to_view(place)), place);
/// # Ok::<(), Box<dyn core::error::Error>>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Camera {
    numbers: CameraNumbers,
    level: Hitbox,
    /// How much further ahead it looks after each tick, px.
    step: f64,
    /// The top-left corner of the view, px, y down.
    corner: DVec2,
    /// How far it looks ahead by now, px.
    ahead: DVec2,
}

/// What a camera follows: a character, or anything that has a hitbox and faces somewhere.
pub trait Followed {
    /// Where it is, px, y down.
    fn hitbox(&self) -> Hitbox;
    /// Where it looks.
    fn facing(&self) -> Facing;
}

impl Followed for crate::tick::Character {
    fn hitbox(&self) -> Hitbox {
        self.hitbox()
    }
    fn facing(&self) -> Facing {
        self.report().facing
    }
}

/// A hitbox, and where that looks.
impl Followed for (Hitbox, Facing) {
    fn hitbox(&self) -> Hitbox {
        self.0
    }
    fn facing(&self) -> Facing {
        self.1
    }
}

impl Camera {
    /// A view whose middle is where it will look: at the middle of the hitbox, as far ahead as it ever looks; within the level if it is
    /// to stay there. `rate`: ticks a second.
    ///
    /// # Errors
    ///
    /// If a number is out of its bounds.
    pub fn new(
        numbers: &CameraNumbers,
        level: Hitbox,
        followed: &impl Followed,
        rate: f64,
    ) -> Result<Camera, CameraError> {
        numbers.check()?;
        // Of a rate that is none, it looks ahead at once.
        let step = (numbers.ahead / (numbers.ahead_over * rate.max(0.0))).min(LIMIT_SPEED);
        let mut camera = Camera { numbers: *numbers, level, step, corner: DVec2::ZERO, ahead: DVec2::ZERO };
        camera.ahead = camera.wanted_ahead(followed.facing());
        camera.look_at(followed);
        Ok(camera)
    }

    /// How it follows.
    #[must_use]
    pub fn numbers(&self) -> &CameraNumbers {
        &self.numbers
    }

    /// Puts its middle where it looks, as at the start: after a restart, or a change of place that is to be a cut.
    pub fn look_at(&mut self, followed: &impl Followed) {
        let middle = middle_of(&followed.hitbox()) + self.ahead;
        self.corner = self.held(middle - self.numbers.view * 0.5);
    }

    /// Follows what was moved in a tick.
    pub fn follow(&mut self, followed: &impl Followed) {
        self.ahead = towards(self.ahead, self.wanted_ahead(followed.facing()), self.step);
        let target = middle_of(&followed.hitbox()) + self.ahead;
        // The corners between which what it looks at is in the box. Beyond them the middle comes onto the box's edge; so at one
        // place of the target the view is always at the same place, and at rest.
        let (middle, half) = (target - self.numbers.view * 0.5, self.numbers.still * 0.5);
        let (least, most) = (middle - half, middle + half);
        let mut corner = self.corner;
        let (x, y) = (corner.x, corner.y);
        match self.numbers.follow {
            Follow::Both => corner = corner.clamp(least, most),
            Follow::Sideways => corner.x = x.clamp(least.x, most.x),
            Follow::Upright => corner.y = y.clamp(least.y, most.y),
            Follow::OnlyLeft => corner.x = x.min(most.x),
            Follow::OnlyRight => corner.x = x.max(least.x),
            Follow::OnlyUp => corner.y = y.min(most.y),
            Follow::OnlyDown => corner.y = y.max(least.y),
        }
        self.corner = self.held(corner);
    }

    /// A corner for which the view stays within the level.
    fn held(&self, corner: DVec2) -> DVec2 {
        if !self.numbers.within_level {
            return corner;
        }
        let Hitbox { left, right, top, bottom } = self.level;
        let view = self.numbers.view;
        let within = |corner: f64, low: f64, high: f64, size: f64| {
            if high - low <= size { (low + high - size) * 0.5 } else { corner.clamp(low, high - size) }
        };
        DVec2::new(within(corner.x, left, right, view.x), within(corner.y, top, bottom, view.y))
    }

    fn wanted_ahead(&self, facing: Facing) -> DVec2 {
        let by = self.numbers.ahead;
        match facing {
            Facing::Left => DVec2::new(-by, 0.0),
            Facing::Right => DVec2::new(by, 0.0),
            Facing::Up => DVec2::new(0.0, -by),
            Facing::Down => DVec2::new(0.0, by),
        }
    }

    /// The top-left corner of what is seen, px, y down.
    #[must_use]
    pub fn corner(&self) -> DVec2 {
        self.corner
    }

    /// What is seen, px, y down.
    #[must_use]
    pub fn view(&self) -> Hitbox {
        Hitbox::at(self.corner, self.numbers.view)
    }

    /// The top-left corner of what is drawn, in whole px, half up: so that tiles do not shimmer. What that leaves over is kept.
    #[must_use]
    pub fn drawn_from(&self) -> DVec2 {
        DVec2::new(round_half_up(self.corner.x), round_half_up(self.corner.y))
    }

    /// Where a place of the level is on the screen, px from the view's top-left corner.
    #[must_use]
    pub fn to_view(&self, place: DVec2) -> DVec2 {
        (place - self.drawn_from()) * self.numbers.scale
    }

    /// The place of the level that is at a place of the screen.
    #[must_use]
    pub fn to_world(&self, seen: DVec2) -> DVec2 {
        seen / self.numbers.scale + self.drawn_from()
    }

    /// Whether nothing of a box is seen.
    #[must_use]
    pub fn is_out_of_view(&self, place: &Hitbox) -> bool {
        !self.view().overlaps(place)
    }
}

/// From one offset to another, by no more than a step along each axis.
fn towards(from: DVec2, to: DVec2, step: f64) -> DVec2 {
    let axis = |from: f64, to: f64| if (to - from).abs() <= step { to } else { from + step.copysign(to - from) };
    DVec2::new(axis(from.x, to.x), axis(from.y, to.y))
}

fn middle_of(place: &Hitbox) -> DVec2 {
    DVec2::new((place.left + place.right) * 0.5, (place.top + place.bottom) * 0.5)
}

//! The part of a level that is seen: a view that follows a character, as a pure function from tick to tick.
//!
//! It stands beside the world and asks nothing of it: [`Camera::follow`] is told where the character is, after each tick.

use core::fmt;

use glam::DVec2;

use crate::input::Facing;
use crate::space::Hitbox;
use crate::space::float::round_half_up;
use crate::terrain::Side;
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

impl Follow {
    /// The words used in level files.
    pub const NAMES: [(&'static str, Follow); 7] = [
        ("both", Follow::Both),
        ("sideways", Follow::Sideways),
        ("upright", Follow::Upright),
        ("only-left", Follow::OnlyLeft),
        ("only-right", Follow::OnlyRight),
        ("only-up", Follow::OnlyUp),
        ("only-down", Follow::OnlyDown),
    ];

    /// Whether it ever moves towards a side.
    #[must_use]
    pub fn moves_towards(self, side: Side) -> bool {
        match side {
            Side::Left => matches!(self, Follow::Both | Follow::Sideways | Follow::OnlyLeft),
            Side::Right => matches!(self, Follow::Both | Follow::Sideways | Follow::OnlyRight),
            Side::Top => matches!(self, Follow::Both | Follow::Upright | Follow::OnlyUp),
            Side::Bottom => matches!(self, Follow::Both | Follow::Upright | Follow::OnlyDown),
        }
    }

    /// The side that a view which never goes back leaves behind.
    #[must_use]
    pub fn behind(self) -> Option<Side> {
        match self {
            Follow::OnlyLeft => Some(Side::Right),
            Follow::OnlyRight => Some(Side::Left),
            Follow::OnlyUp => Some(Side::Bottom),
            Follow::OnlyDown => Some(Side::Top),
            Follow::Both | Follow::Sideways | Follow::Upright => None,
        }
    }
}

/// What a view tells of whom it follows. Displayed as in a trace: `left-view:bottom`.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum ViewEvent {
    /// The hitbox came to be wholly out of view, on this side: `left-view:bottom`.
    Left(Side),
    /// It came to be wholly behind a view that is deadly there: `died:view`.
    Died,
}

impl ViewEvent {
    /// All that there are.
    pub const ALL: [ViewEvent; 5] = [
        ViewEvent::Left(Side::Left),
        ViewEvent::Left(Side::Right),
        ViewEvent::Left(Side::Top),
        ViewEvent::Left(Side::Bottom),
        ViewEvent::Died,
    ];
}

impl fmt::Display for ViewEvent {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            ViewEvent::Left(side) => write!(f, "left-view:{side}"),
            ViewEvent::Died => f.write_str("died:view"),
        }
    }
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
    /// Whether who is wholly behind a view that never goes back dies of it.
    pub deadly_behind: bool,
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
            deadly_behind: false,
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
        if self.deadly_behind && self.follow.behind().is_none() {
            return Err(CameraError::NothingBehind);
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
    /// It is to be deadly behind, and can go back.
    NothingBehind,
}

impl fmt::Display for CameraError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            CameraError::BadView => "the view must have a width and a height above 0, within coordinates",
            CameraError::BadStill => "the box in which nothing moves must be from 0 to the size of the view",
            CameraError::BadAhead => "it must look ahead by 0 to half of the view, in a time above 0",
            CameraError::BadScale => "the scale must be above 0 and at most 1000",
            CameraError::NothingBehind => {
                "only what never goes back leaves something behind that can be deadly: follow = \"only-right\", or another way"
            }
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
    /// Whether who is followed is out of view, and whether it is behind where that is deadly.
    is_out: bool,
    is_behind: bool,
    /// What it told of the last tick.
    told: [Option<ViewEvent>; 2],
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
        let mut camera = Camera {
            numbers: *numbers,
            level,
            step,
            corner: DVec2::ZERO,
            ahead: DVec2::ZERO,
            is_out: false,
            is_behind: false,
            told: [None; 2],
        };
        camera.ahead = camera.wanted_ahead(followed.facing());
        camera.look_at(followed);
        Ok(camera)
    }

    /// How it follows.
    #[must_use]
    pub fn numbers(&self) -> &CameraNumbers {
        &self.numbers
    }

    /// Puts its middle where it looks, as at the start: after a restart, or a change of place that is to be a cut. What it told of
    /// the tick stays; of the cut it tells nothing.
    pub fn look_at(&mut self, followed: &impl Followed) {
        let place = followed.hitbox();
        let middle = middle_of(&place) + self.ahead;
        self.corner = self.held(middle - self.numbers.view * 0.5);
        (self.is_out, self.is_behind) = (self.is_out_of_view(&place), self.is_left_behind(&place));
    }

    /// Follows what was moved in a tick, and tells what came of it in [`Camera::events`].
    pub fn follow(&mut self, followed: &impl Followed) {
        self.ahead = towards(self.ahead, self.wanted_ahead(followed.facing()), self.step);
        let target = middle_of(&followed.hitbox()) + self.ahead;
        // The corners between which what it looks at is in the box. Beyond them the middle comes onto the box's edge; so at one
        // place of the target the view is always at the same place, and at rest.
        let (middle, half) = (target - self.numbers.view * 0.5, self.numbers.still * 0.5);
        let (least, most) = (middle - half, middle + half);
        let moves = |side| self.numbers.follow.moves_towards(side);
        let mut corner = self.corner;
        if moves(Side::Right) {
            corner.x = corner.x.max(least.x);
        }
        if moves(Side::Left) {
            corner.x = corner.x.min(most.x);
        }
        if moves(Side::Bottom) {
            corner.y = corner.y.max(least.y);
        }
        if moves(Side::Top) {
            corner.y = corner.y.min(most.y);
        }
        self.corner = self.held(corner);
        let place = followed.hitbox();
        let (out, is_behind) = (self.side_of(&place), self.is_left_behind(&place));
        let left = out.filter(|_| !self.is_out).map(ViewEvent::Left);
        self.told = [left, (is_behind && !self.is_behind).then_some(ViewEvent::Died)];
        (self.is_out, self.is_behind) = (out.is_some(), is_behind);
    }

    /// What it told of the last tick, in order.
    #[must_use = "it is for the game to end the run of who died"]
    pub fn events(&self) -> impl Iterator<Item = ViewEvent> {
        self.told.into_iter().flatten()
    }

    /// On which side of the view a place wholly is, if it is out of view. Of two the first of left, right, top, bottom.
    fn side_of(&self, place: &Hitbox) -> Option<Side> {
        Side::ALL.into_iter().find(|side| is_beyond(&self.view(), *side, place))
    }

    /// Whether a place is wholly behind, where that is deadly: beside or above and below the view as well.
    fn is_left_behind(&self, place: &Hitbox) -> bool {
        let behind = self.numbers.follow.behind().filter(|_| self.numbers.deadly_behind);
        behind.is_some_and(|side| is_beyond(&self.view(), side, place))
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
        self.side_of(place).is_some()
    }
}

/// Whether a place is wholly beyond a side of the view; touching it from outside is beyond, as with the edges of a map.
fn is_beyond(view: &Hitbox, side: Side, place: &Hitbox) -> bool {
    match side {
        Side::Left => place.right <= view.left,
        Side::Right => place.left >= view.right,
        Side::Top => place.bottom <= view.top,
        Side::Bottom => place.top >= view.bottom,
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

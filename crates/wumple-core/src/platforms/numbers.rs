use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use super::CrumbleNumbers;
use super::curve::curve_through;
use crate::groups::Group;
use crate::terrain::{LIMIT_MARGIN, Material, Zone};
use crate::tuning::{LIMIT_LENGTH, LIMIT_SPEED};

/// A platform, as written and not yet checked: px and seconds, y down.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct PlatformNumbers {
    /// Width and height, px, above 0.
    pub size: DVec2,
    /// What of it stops a body.
    pub surface: PlatformSurface,
    /// The places of its top-left corner, px, at least one.
    pub route: Vec<DVec2>,
    /// How fast it goes along its route. Of no effect with one place.
    pub pace: Pace,
    /// How its speed changes.
    pub ease: Ease,
    /// Over what a smooth ease is from rest to rest.
    #[cfg_attr(feature = "serde", serde(default))]
    pub ease_over: EaseOver,
    /// Whether its legs are straight.
    #[cfg_attr(feature = "serde", serde(default))]
    pub bend: Bend,
    /// What it does at the end of the route.
    pub ends: Ends,
    /// How long it waits at each end, s, from 0 up.
    pub wait: f64,
    /// When it sets off.
    pub starts: Starts,
    /// How it crumbles, if it does.
    pub crumble: Option<CrumbleNumbers>,
    /// What its top is like to stand on.
    pub material: Material,
    /// What it is besides, if it is a zone.
    #[cfg_attr(feature = "serde", serde(default))]
    pub zone: Option<Zone>,
    /// The group that it is in.
    #[cfg_attr(feature = "serde", serde(default))]
    pub group: Group,
    /// The groups of which somebody sets it off, where it waits for a rider; `None`: anyone does.
    #[cfg_attr(feature = "serde", serde(default))]
    pub starts_for: Option<Vec<Group>>,
    /// The groups under which it crumbles, be it a character or a prop; `None`: any character.
    #[cfg_attr(feature = "serde", serde(default))]
    pub crumbles_for: Option<Vec<Group>>,
}

impl PlatformNumbers {
    /// A solid platform of this size (px) that stays with its top-left corner at this place (px).
    #[must_use]
    pub fn new(size: DVec2, corner: DVec2) -> PlatformNumbers {
        PlatformNumbers {
            size,
            surface: PlatformSurface::default(),
            route: Vec::from([corner]),
            pace: Pace::Speed(1.0),
            ease: Ease::default(),
            ease_over: EaseOver::default(),
            bend: Bend::default(),
            ends: Ends::default(),
            wait: 0.0,
            starts: Starts::default(),
            crumble: None,
            material: Material::PLAIN,
            zone: None,
            group: Group::LEVEL,
            starts_for: None,
            crumbles_for: None,
        }
    }

    /// The same that goes on to this place, at `speed` px/s along the whole route.
    #[must_use]
    pub fn to(mut self, corner: DVec2, speed: f64) -> PlatformNumbers {
        self.route.push(corner);
        self.pace = Pace::Speed(speed);
        self
    }

    /// What is wrong with it, if anything.
    pub(crate) fn problem(&self) -> Option<PlatformProblem> {
        use PlatformProblem::{BadCrumble, BadMaterial, BadPace, BadPlace, BadSize, BadWait, NoPlace, TooFast};
        let within = |place: f64| place.abs() <= LIMIT_LENGTH;
        let sizes = |length: f64| length > 0.0 && length <= LIMIT_LENGTH;
        let times = |seconds: f64| (0.0..=MOST_SECONDS).contains(&seconds);
        if !sizes(self.size.x) || !sizes(self.size.y) {
            return Some(BadSize);
        }
        if self.route.is_empty() {
            return Some(NoPlace);
        }
        let is_place = |place: &DVec2| within(place.x) && within(place.y);
        let fits = |at: &DVec2| is_place(at) && is_place(&(*at + self.size));
        if let Some(place) = self.route.iter().position(|at| !fits(at)) {
            return Some(BadPlace { place });
        }
        // A curve may come further out than the places that it leads through.
        if self.bend == Bend::Round {
            let legs = curve_through(&self.route, self.ends == Ends::Loop && self.route.len() > 1);
            if let Some(place) = legs.iter().position(|leg| !leg.hull().iter().all(fits)) {
                return Some(BadPlace { place });
            }
        }
        let (Pace::Speed(pace) | Pace::Trip(pace)) = self.pace;
        // Written so that NaN is refused as well.
        if !(pace > 0.0 && pace.is_finite()) || matches!(self.pace, Pace::Trip(trip) if trip > MOST_SECONDS) {
            return Some(BadPace);
        }
        let mut length: f64 = self.route.windows(2).map(|leg| (leg[1] - leg[0]).length()).sum();
        if self.ends == Ends::Loop {
            length += (self.route[self.route.len() - 1] - self.route[0]).length();
        }
        let mean = match self.pace {
            Pace::Speed(speed) => speed,
            Pace::Trip(trip) => length / trip,
        };
        // A smooth leg is half as fast again in its middle.
        if mean > LIMIT_SPEED / 1.5 {
            return Some(TooFast);
        }
        if length > 0.0 && mean < length / MOST_SECONDS {
            return Some(BadPace);
        }
        if !times(self.wait) {
            return Some(BadWait);
        }
        let crumbles = |crumble: &CrumbleNumbers| {
            times(crumble.after)
                && times(crumble.over)
                && crumble.back_after.is_none_or(times)
                && (0.0..=LIMIT_LENGTH).contains(&crumble.sink)
        };
        if !self.crumble.as_ref().is_none_or(crumbles) {
            return Some(BadCrumble);
        }
        if !self.material.is_within_bounds() {
            return Some(BadMaterial);
        }
        self.zone.filter(|zone| !zone.margin.is_within_bounds()).map(|_| PlatformProblem::BadMargin)
    }
}

/// No wait, trip or delay is longer, s.
const MOST_SECONDS: f64 = 1e6;

/// What of a platform stops a body.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum PlatformSurface {
    /// All sides.
    #[default]
    Solid,
    /// Its top, for what comes from above.
    OneWay,
}

/// How fast a platform goes along its route.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Pace {
    /// The mean speed of each leg, px/s, above 0.
    Speed(f64),
    /// How long the whole route takes one way, without waits, s, above 0. The legs share it by their length.
    Trip(f64),
}

/// Over what a platform's smooth ease is from rest to rest.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum EaseOver {
    /// Each leg.
    #[default]
    Leg,
    /// The way from one end of the route to the other; where it is a loop, the leg that closes it by itself.
    Trip,
}

/// How a route leads through its places.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Bend {
    /// In straight legs.
    #[default]
    Straight,
    /// In a smooth curve; the mean speed is kept along it.
    Round,
}

/// How a platform's speed changes on its route, over what [`EaseOver`] says.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Ease {
    /// Not at all.
    #[default]
    Linear,
    /// From rest to rest: after a share `u` of the time, `3u^2 - 2u^3` of the way.
    Smooth,
}

/// What a platform does at the end of its route.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Ends {
    /// It goes back the same way.
    #[default]
    BackAndForth,
    /// It goes straight to the first place, and round again.
    Loop,
    /// It stays.
    Once,
}

/// When a platform sets off along its route.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Starts {
    /// With the world.
    #[default]
    AtOnce,
    /// When something first stands on it.
    WhenRidden,
}

/// What is wrong with a platform, and with which.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct PlatformError {
    /// Which platform, from 0.
    pub platform: usize,
    /// What is wrong with it.
    pub problem: PlatformProblem,
}

/// What is wrong with a platform.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum PlatformProblem {
    /// Its width or its height is not above 0, or greater than coordinates go.
    BadSize,
    /// Its route has no place.
    NoPlace,
    /// A place of its route is beyond where coordinates end.
    BadPlace {
        /// Which place, from 0.
        place: usize,
    },
    /// Its speed or its trip is not above 0, or it would take more than a million seconds.
    BadPace,
    /// It would be faster than two thirds of the limit of speeds.
    TooFast,
    /// Its wait is not from 0 to a million seconds.
    BadWait,
    /// A time or the way of its crumbling is below 0 or too great.
    BadCrumble,
    /// Its grip, surface speed or bounce is not within its bounds.
    BadMaterial,
    /// The margin of its zone is not within its bounds.
    BadMargin,
    /// The world does not know yet how many ticks a second it has: it has neither characters nor platforms.
    NoRate,
    /// Some body moves by whole pixels, and a side of the platform is not of whole pixels.
    NotWhole,
}

impl fmt::Display for PlatformProblem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            PlatformProblem::BadSize => {
                write!(f, "both sides of its size must be above 0 and at most {LIMIT_LENGTH} px")
            }
            PlatformProblem::NoPlace => f.write_str("its route must have at least one place"),
            PlatformProblem::BadPlace { place } => {
                write!(f, "place {place} of its route is beyond where coordinates end, {LIMIT_LENGTH} px")
            }
            PlatformProblem::BadPace => {
                write!(f, "its speed or trip must be above 0, and no trip may take more than {MOST_SECONDS} s")
            }
            PlatformProblem::TooFast => {
                write!(f, "it would be too fast; the mean speed of a leg may be {} px/s", (LIMIT_SPEED / 1.5) as u32)
            }
            PlatformProblem::BadWait => write!(f, "its wait must be from 0 to {MOST_SECONDS} s"),
            PlatformProblem::BadCrumble => {
                write!(f, "the times of its crumbling must be from 0 to {MOST_SECONDS} s, and its sink not below 0")
            }
            PlatformProblem::BadMargin => write!(f, "the margin of its zone must be within {LIMIT_MARGIN} px"),
            PlatformProblem::NoRate => f.write_str(
                "the world has no tick rate yet: add a character first, or make it with `Platforms::new(&[], rate)`",
            ),
            PlatformProblem::NotWhole => {
                f.write_str("its sides are not whole px; among bodies that move by whole pixels they must be")
            }
            PlatformProblem::BadMaterial => f.write_str("its grip, surface speed or bounce is out of bounds"),
        }
    }
}

impl fmt::Display for PlatformError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "platform {}: {}", self.platform + 1, self.problem)
    }
}

impl core::error::Error for PlatformError {}

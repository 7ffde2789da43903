//! From px of the level to points of the screen and back: zoomed, panned, following.

use eframe::egui::{Pos2, Rect, Vec2, pos2};
use wumple::{DVec2, Hitbox, Level, Terrain};

/// What of the level is seen, and how large.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Sight {
    /// Where it is on the screen.
    pub(crate) area: Rect,
    /// The place of the level in its middle, px.
    middle: DVec2,
    /// Points of the screen for a px of the level.
    pub(crate) scale: f64,
}

/// How the level is looked at, as it was chosen.
#[derive(Clone, Copy, Debug, Default)]
pub struct Look {
    /// Points for a px; as large as fits, unless chosen.
    scale: Option<f64>,
    /// Where, px; with who plays, unless chosen.
    middle: Option<DVec2>,
}

/// A level is not drawn larger than this by itself, and not so small that it cannot be played.
const FITS: std::ops::RangeInclusive<f64> = 1.0..=3.0;
const ZOOMS: std::ops::RangeInclusive<f64> = 0.1..=16.0;

impl Look {
    /// What is seen: `followed` is in it, unless somewhere else was chosen.
    pub(crate) fn sight(&self, area: Rect, level: &Level, followed: DVec2) -> Sight {
        let size = DVec2::new(level.grid.width(), level.grid.height());
        let room = DVec2::new(f64::from(area.width()), f64::from(area.height()));
        let whole = (room / (size + DVec2::splat(24.0))).min_element();
        let scale = self.scale.unwrap_or(whole.clamp(*FITS.start(), *FITS.end()));
        let seen = room / scale;
        // As a level's own camera would: it follows within the level, and what is smaller is in the middle.
        let along = |followed: f64, size: f64, seen: f64| {
            let over = 12.0;
            if size + over * 2.0 <= seen {
                size / 2.0
            } else {
                followed.clamp(seen / 2.0 - over, size + over - seen / 2.0)
            }
        };
        let middle = self
            .middle
            .unwrap_or_else(|| DVec2::new(along(followed.x, size.x, seen.x), along(followed.y, size.y, seen.y)));
        Sight { area, middle, scale }
    }

    /// Larger or smaller, while a place stays where it is.
    pub(crate) fn zoom(&mut self, sight: &Sight, by: f64, about: Pos2) {
        let scale = (sight.scale * by).clamp(*ZOOMS.start(), *ZOOMS.end());
        let there = sight.to_level(about);
        self.middle = Some(there + (sight.middle - there) * (sight.scale / scale));
        self.scale = Some(scale);
    }

    /// Elsewhere, by so many points.
    pub(crate) fn pan(&mut self, sight: &Sight, by: Vec2) {
        self.middle = Some(sight.middle - DVec2::new(f64::from(by.x), f64::from(by.y)) / sight.scale);
    }

    /// Elsewhere, by so many px of the level.
    pub(crate) fn go(&mut self, by: DVec2, seen: Option<Sight>) {
        if let Some(seen) = seen {
            self.middle = Some(seen.middle + by);
        }
    }

    /// As large as fits, and with who plays, again.
    pub fn follow(&mut self) {
        *self = Look::default();
    }

    /// Whether it follows who plays.
    #[must_use]
    pub fn follows(&self) -> bool {
        self.middle.is_none()
    }
}

impl Sight {
    pub(crate) fn to_screen(self, place: DVec2) -> Pos2 {
        let by = (place - self.middle) * self.scale;
        let middle = self.area.center();
        pos2(middle.x + by.x as f32, middle.y + by.y as f32)
    }

    pub(crate) fn to_level(self, point: Pos2) -> DVec2 {
        let by = point - self.area.center();
        self.middle + DVec2::new(f64::from(by.x), f64::from(by.y)) / self.scale
    }

    pub(crate) fn rect(self, place: &Hitbox) -> Rect {
        Rect::from_two_pos(
            self.to_screen(DVec2::new(place.left, place.top)),
            self.to_screen(DVec2::new(place.right, place.bottom)),
        )
    }

    /// The columns and rows that are seen: the first, and the one after the last.
    pub(crate) fn tiles(self, level: &Level) -> ((i32, i32), (i32, i32)) {
        let lines = level.grid.grid_lines();
        let (from, to) = (self.to_level(self.area.min), self.to_level(self.area.max));
        let along = |from: f64, to: f64, count: i32| {
            let first = lines.last_at_or_before(from, 0.0).clamp(0, count);
            (first, (lines.last_at_or_before(to, 0.0) + 1).clamp(first, count))
        };
        (along(from.x, to.x, level.grid.columns()), along(from.y, to.y, level.grid.rows()))
    }
}

//! What can be stood on: the tops of tiles and blocks, and slopes.

use glam::DVec2;

use super::{JOIN, Obstacle, Surroundings, Swept};
use crate::nearby::{FlatTop, PieceId, RampId, Slope, Support};
use crate::platforms::Mover;
use crate::space::Hitbox;
use crate::terrain::{Material, Terrain};

/// What holds a body up, or would: a top as one body meets it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Floor {
    pub(crate) y: f64,
    pub(crate) support: Support,
    pub(crate) material: Material,
    /// Whether it is solid: nothing that can be dropped through.
    pub(crate) solid: bool,
    /// Which ramp it is, if it is one.
    pub(crate) ramp: Option<RampId>,
    left: f64,
    under_feet: bool,
    overlap: f64,
}

impl Floor {
    /// The top of something, as if it were plain and solid, to a body of this half width at `x`.
    fn of(top: &Hitbox, support: Support, x: f64, half: f64) -> Floor {
        let (left, right) = (top.left, top.right);
        let overlap = right.min(x + half) - left.max(x - half);
        Floor { support, under_feet: left <= x && x < right, overlap, left, ..Floor::plain(top.top) }
    }

    /// The edge of the map, or a plain tile, where nothing else can be.
    pub(crate) fn plain(y: f64) -> Floor {
        Floor {
            y,
            support: Support::Solid,
            material: Material::PLAIN,
            solid: true,
            ramp: None,
            left: 0.0,
            under_feet: true,
            overlap: 0.0,
        }
    }

    /// Where what it is the top of begins, px: infinite of an edge of the map.
    pub(crate) fn left(&self) -> f64 {
        self.left
    }

    /// Whether it comes before another: the higher; at equal height what supported in the tick before, if the
    /// feet's middle is still on it, else what is under the middle, else what is overlapped more, else the
    /// unmoving, else the leftmost, else the first of the file; last of all a ramp.
    pub(crate) fn is_before(&self, other: &Floor, supported: Support) -> bool {
        if self.y != other.y {
            return self.y < other.y;
        }
        let key = |floor: &Floor| {
            let mover = floor.support.mover();
            let stays = floor.under_feet && floor.support == supported;
            (!stays, !floor.under_feet, -floor.overlap, mover.is_some(), floor.left, mover, floor.ramp.is_some())
        };
        key(self) < key(other)
    }
}

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// The first top met on the way down from `from` to `to`, ends included, by a body with its feet at
    /// this x.
    pub(crate) fn first_floor(&self, x: f64, from: f64, to: f64) -> Option<Floor> {
        self.first_floor_after(Support::None, x, from, to)
    }

    /// The same for a body that this supported in the tick before.
    pub(crate) fn first_floor_after(&self, supported: Support, x: f64, from: f64, to: f64) -> Option<Floor> {
        let mut first: Option<Floor> = None;
        self.floors(x, from, to, |floor| {
            if first.is_none_or(|first| floor.is_before(&first, supported)) {
                first = Some(*floor);
            }
        });
        first
    }

    /// Every top from `from` down to `to`, ends included, that would hold a body with its feet at this x.
    #[inline(always)]
    pub(crate) fn floors(&self, x: f64, from: f64, to: f64, mut visit: impl FnMut(&Floor)) {
        let half = self.body.half_width();
        let area = Hitbox { left: x - half, right: x + half, top: from, bottom: to };
        self.slopes(&area, |slope| {
            if let Some(floor) = self.floor_of_slope(slope, x, from, to) {
                visit(&floor);
            }
        });
        self.nearby.flat_tops(self.terrain, &area, |top| {
            let y = top.place.top;
            let under = x > top.place.left - half && x < top.place.right + half;
            if y >= from && y <= to && under && self.holds(top, x) {
                let solid = !matches!(top.support, Support::OneWay | Support::Ladder);
                visit(&Floor { solid, material: top.material, ..Floor::of(&top.place, top.support, x, half) });
            }
        });
        let area = Hitbox { top: from.min(self.began.map_or(from, |began| began.y)), ..area };
        self.movers(&area, |mover| {
            let Hitbox { left, right, .. } = mover.now;
            if x > left - half && x < right + half && self.is_top_met(mover, x, from, to) {
                let floor = Floor::of(&mover.now, Support::from(mover.id), x, half);
                visit(&Floor { solid: mover.solid, material: mover.material, ..floor });
            }
        });
    }

    /// Whether a top under the body is there for it: nothing that it lets itself drop through, climbs through, or
    /// walks over on a ramp.
    fn holds(&self, top: &FlatTop, x: f64) -> bool {
        let passed = match (top.support, self.climbing) {
            (Support::Ladder, None) => !self.ladders || self.dropping.passes_flats_at(top.place.top),
            (Support::Ladder, Some(_)) => true,
            (Support::OneWay, climbing) => {
                let climbed = climbing.is_some_and(|ladder| top.on_ladder && top.is_in_column(ladder.column));
                self.dropping.passes_flats_at(top.place.top) || climbed
            }
            _ => false,
        };
        // Feet go on down beside what is buried, to the ramp that leads up to it.
        !passed && !self.is_buried(&Obstacle::of(&top.place, top.id), DVec2::new(x, top.place.top + 2.0 * JOIN))
    }

    /// Whether a platform's top holds feet on their way down from one height to another. A one-way top also
    /// lifts feet that it came up past in this tick, unless the head meets something.
    fn is_top_met(&self, mover: &Mover, x: f64, from: f64, to: f64) -> bool {
        let top = mover.now.top;
        if !mover.solid && self.dropping.passes_mover(mover.id) {
            return false;
        }
        let on_the_way = top >= from && top <= to;
        match self.began {
            Some(began) => {
                let past = began.y <= mover.old.top && top <= to && self.may_lift(mover, began, from);
                (mover.solid && on_the_way) || (past && (top >= from || !self.rise(DVec2::new(x, from), top).blocked))
            }
            None => on_the_way,
        }
    }

    /// A solid platform that is far above the body by now has gone past it elsewhere, unless it was under it when
    /// the tick began: it lifts only what it would overlap.
    fn may_lift(&self, mover: &Mover, began: DVec2, feet: f64) -> bool {
        let half = self.body.half_width();
        let was_under = || began.x > mover.old.left - half && began.x < mover.old.right + half;
        !mover.solid || feet < mover.now.bottom + self.body.height || was_under()
    }

    /// The platform that lifts feet which it came up past in this tick, and how far: a one-way one only if the
    /// head has room.
    pub(crate) fn lifted_by(&self, feet: DVec2, counts: impl Fn(&Mover) -> bool) -> Option<(Mover, Swept)> {
        let lifted = |mover: Mover| (mover, self.rise(feet, mover.now.top));
        let highest = self.come_up_past(feet, &counts).map(lifted);
        highest
            .filter(|(mover, lifted)| mover.solid || !lifted.blocked)
            .or_else(|| self.come_up_past(feet, |mover| mover.solid && counts(mover)).map(lifted))
    }

    /// The platform with the highest top of those that came up past feet in this tick, which began it above.
    fn come_up_past(&self, feet: DVec2, counts: impl Fn(&Mover) -> bool) -> Option<Mover> {
        let (half, began) = (self.body.half_width(), self.began?);
        let mut found: Option<Mover> = None;
        self.movers(&self.area_between(feet, feet, 0.0), |mover| {
            let Hitbox { left, right, top, .. } = mover.now;
            let ignored = !mover.solid && self.dropping.passes_mover(mover.id);
            let past = began.y <= mover.old.top && feet.y > top && feet.x > left - half && feet.x < right + half;
            if past
                && !ignored
                && self.may_lift(mover, began, feet.y)
                && counts(mover)
                && found.is_none_or(|found| top < found.now.top)
            {
                found = Some(*mover);
            }
        });
        found
    }

    /// A slope under the feet, or the end of a ramp from which no other goes on, where the box still overlaps it.
    fn floor_of_slope(&self, slope: &Slope, x: f64, from: f64, to: f64) -> Option<Floor> {
        let (ramp, half) = (&slope.ramp, self.body.half_width());
        let (y, spans) = (ramp.at(x), ramp.spans(x));
        let (left, right) = (ramp.left_end().x, ramp.right_end().x);
        let overlaps = x > left - half && x < right + half;
        if y < from || y > to || !(overlaps || spans) {
            return None;
        }
        if !spans && self.is_end_taken_over(slope, x > right) && !self.must_hold(DVec2::new(x, y)) {
            return None;
        }
        let floor = Floor::of(&Hitbox { left, right, top: y, bottom: y }, Support::Ramp, x, half);
        let (solid, material, ramp) = (ramp.solid, ramp.material, Some(slope.id));
        Some(Floor { solid, material, ramp, under_feet: spans, ..floor })
    }

    /// Whether a body that drops through a ramp would come to be inside something below the end of another: what that leads up to is
    /// solid again from there on.
    fn must_hold(&self, feet: DVec2) -> bool {
        self.dropping.passes_ramps() && !self.fits(DVec2::new(feet.x, feet.y + 2.0 * JOIN))
    }
}

impl FlatTop {
    fn is_in_column(&self, of: i32) -> bool {
        matches!(self.id, PieceId::Tile { column, .. } if column == of)
    }
}

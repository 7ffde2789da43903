//! Which piece of a level it is that stops a body, holds it up, or lies in a box.

use glam::DVec2;

use super::{Floor, Heading, Obstacle, Surroundings, Wall};
use crate::input::Direction;
use crate::nearby::{PieceId, RampId, Support};
use crate::space::{GridLines, Hitbox};
use crate::terrain::Terrain;

impl Floor {
    /// What it is the top of.
    pub(crate) fn piece(&self, lines: GridLines) -> Option<PieceId> {
        match (self.support, self.ramp) {
            (_, Some(ramp)) => Some(PieceId::Ramp(ramp)),
            (Support::Block(block), _) => Some(PieceId::Block(block)),
            (Support::Platform(_) | Support::Prop(_) | Support::Character(_), _) => {
                self.support.mover().map(PieceId::Mover)
            }
            (Support::Solid | Support::OneWay | Support::Ladder, _) if self.left().is_finite() => {
                let (column, row) = (lines.last_at_or_before(self.left(), 0.0), lines.last_at_or_before(self.y, 0.0));
                Some(PieceId::Tile { column, row })
            }
            (Support::Solid, _) => Some(PieceId::Edge(crate::terrain::Side::Bottom)),
            _ => None,
        }
    }
}

/// The pieces of a level as one body meets them.
pub(crate) struct Pieces<'a, T: ?Sized>(&'a Surroundings<'a, T>);

impl<T: ?Sized> Surroundings<'_, T> {
    /// Which pieces they are made of.
    pub(crate) fn pieces(&self) -> Pieces<'_, T> {
        Pieces(self)
    }
}

impl<T: Terrain + ?Sized> Pieces<'_, T> {
    /// What holds feet up that are exactly here; if it is known what kind of thing that is, one of that kind.
    pub(crate) fn below(&self, feet: DVec2, kind: Option<Support>) -> Option<PieceId> {
        let mut first: Option<Floor> = None;
        self.0.floors(feet.x, feet.y, feet.y, |floor| {
            let is_one = kind.is_none_or(|kind| floor.support == kind);
            if is_one && first.is_none_or(|first| floor.is_before(&first, Support::None)) {
                first = Some(*floor);
            }
        });
        first?.piece(self.0.terrain.grid_lines())
    }

    /// The wall that a face at this place is of, to a body with its feet here: of several, the one beside most of it.
    pub(crate) fn of_face(&self, side: Direction, face: f64, feet: DVec2) -> Option<PieceId> {
        let to_right = side == Direction::Right;
        let area = Hitbox { left: face, right: face, top: feet.y - self.0.body.height, bottom: feet.y };
        self.with_most(&area, Heading::along_x(to_right), |obstacle| {
            let at = if to_right { obstacle.left } else { obstacle.right };
            let beside = at == face && obstacle.overlaps_in_height(self.0.body, feet.y);
            // What is buried where the feet stopped may have been none on their way: it comes last.
            let last = if beside && self.0.is_buried(obstacle, feet) { self.0.body.height } else { 0.0 };
            beside.then(|| obstacle.bottom.min(feet.y) - obstacle.top.max(feet.y - self.0.body.height) - last)
        })
    }

    /// The wall that a body touches.
    pub(crate) fn of_wall(&self, wall: &Wall, feet: DVec2) -> Option<PieceId> {
        wall.mover().map(PieceId::Mover).or_else(|| self.of_face(wall.side, wall.face, feet))
    }

    /// The ceiling right above a head: of several, the one over most of it.
    pub(crate) fn above(&self, feet: DVec2) -> Option<PieceId> {
        let (half, head) = (self.0.body.half_width(), feet.y - self.0.body.height);
        let area = Hitbox { left: feet.x - half, right: feet.x + half, top: head, bottom: head };
        self.with_most(&area, Heading::Up, |obstacle| {
            let over = obstacle.right.min(feet.x + half) - obstacle.left.max(feet.x - half);
            (obstacle.bottom + self.0.body.height == feet.y && over > 0.0).then_some(over)
        })
    }

    fn with_most(&self, area: &Hitbox, heading: Heading, share: impl Fn(&Obstacle) -> Option<f64>) -> Option<PieceId> {
        let mut found: Option<(f64, PieceId)> = None;
        self.0.obstacles(area, heading, |obstacle| {
            if let Some(share) = share(obstacle)
                && found.is_none_or(|(most, _)| share > most)
            {
                found = Some((share, obstacle.id));
            }
        });
        found.map(|(_, id)| id)
    }

    /// Everything that a box overlaps, but edges of the map. Of drawn ramps, those whose line goes through it.
    pub(crate) fn inside(&self, area: &Hitbox, visit: &mut dyn FnMut(PieceId)) {
        let terrain = self.0.terrain;
        let (columns, rows) = crate::nearby::cells_about(terrain, area);
        for row in rows {
            for column in columns.clone() {
                let is_something = terrain.surface(column, row) != crate::terrain::Surface::Empty;
                if is_something && terrain.grid_lines().cell(column, row).overlaps(area) {
                    visit(PieceId::Tile { column, row });
                }
            }
        }
        terrain.blocks_near(area, &mut |index, block| {
            if block.place().overlaps(area) {
                visit(PieceId::Block(index));
            }
        });
        terrain.ramps_near(area, &mut |index, ramp| {
            let (from, to) = (ramp.left_end().x.max(area.left), ramp.right_end().x.min(area.right));
            let (one, other) = (ramp.at(from), ramp.at(to));
            if from < to && one.min(other) < area.bottom && one.max(other) > area.top {
                visit(PieceId::Ramp(RampId::Drawn(index)));
            }
        });
        self.0.movers(area, |mover| {
            if mover.now.overlaps(area) {
                visit(PieceId::Mover(mover.id));
            }
        });
    }
}

//! Whether there is something beneath a place of a level to stand on.

use wumple_core::{Edge, Grid, Hitbox, PlatformNumbers, Surface, Terrain};

use super::objects::LevelProp;

/// Everything of a level on which somebody can stand.
#[derive(Clone, Copy)]
pub(crate) struct Grounds<'a> {
    pub(crate) grid: &'a Grid,
    pub(crate) platforms: &'a [PlatformNumbers],
    pub(crate) props: &'a [LevelProp],
}

impl Grounds<'_> {
    /// Whether something lies or moves somewhere beneath the top of a box that could hold up who starts there.
    pub(crate) fn are_beneath(&self, place: &Hitbox) -> bool {
        let Grounds { grid, platforms, props } = self;
        if grid.edges().bottom == Edge::Solid {
            return true;
        }
        let is_under =
            |left: f64, right: f64, bottom: f64| left < place.right && right > place.left && bottom > place.top;
        let lines = grid.grid_lines();
        let columns = lines.last_at_or_before(place.left, 0.0).max(0)
            ..(lines.last_at_or_before(place.right, 0.0) + 1).min(grid.columns());
        let first_row = lines.last_at_or_before(place.top, 0.0).max(0);
        let mut of_tiles = columns.filter(|column| {
            let cell = lines.cell(*column, 0);
            cell.left < place.right && cell.right > place.left
        });
        let stands = |surface: Surface| !matches!(surface, Surface::Empty);
        of_tiles.any(|column| (first_row..grid.rows()).any(|row| stands(grid.surface(column, row))))
            || grid.blocks().iter().any(|block| is_under(block.left, block.right, block.bottom))
            || grid.ramps().iter().any(|ramp| {
                let (left, right) = (ramp.left_end(), ramp.right_end());
                is_under(left.x, right.x, left.y.max(right.y))
            })
            || platforms.iter().any(|platform| {
                platform.route.iter().any(|at| is_under(at.x, at.x + platform.size.x, at.y + platform.size.y))
            })
            || props
                .iter()
                .any(|prop| is_under(prop.corner.x, prop.corner.x + prop.size.x, prop.corner.y + prop.size.y))
    }
}

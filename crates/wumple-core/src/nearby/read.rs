//! All reading of the map for a body: what lies in an area, piece by piece, with what covers what settled.

use core::ops::Range;

use super::{Faces, FlatTop, PieceId, RampId, Slope, Solid, Support};
use crate::space::Hitbox;
use crate::terrain::{Block, Edge, Features, Material, Ramp, Side, Surface, Terrain, TileProperties};

/// What is wanted of an area.
pub(crate) trait Collect {
    /// Whether solid pieces are, flat tops, and slopes.
    const WANTS: (bool, bool, bool);
    fn solid(&mut self, _: &Solid) {}
    fn flat_top(&mut self, _: &FlatTop) {}
    fn slope(&mut self, _: &Slope) {}
    /// There is some ladder.
    fn ladder(&mut self) {}
}

/// Everything of the terrain that touches an area, in the order of rows and columns, then blocks, drawn ramps and
/// edges; and perhaps some of what does not.
pub(crate) fn read<T: Terrain + ?Sized>(terrain: &T, area: &Hitbox, into: &mut impl Collect) {
    let (columns, rows) = cells_about(terrain, area);
    for row in rows {
        for column in columns.clone() {
            read_tile(terrain, column, row, into);
        }
    }
    if terrain.features().has(Features::BLOCK) {
        terrain.blocks_near(area, &mut |index, block| read_block(index, block, into));
    }
    if terrain.features().has(Features::DRAWN_RAMP) {
        terrain.ramps_near(area, &mut |index, ramp| into.slope(&drawn(index, ramp)));
    }
    read_edges(terrain, area, into);
}

/// The columns and rows of tiles that touch an area, held to the map, and perhaps one more on each side.
pub(crate) fn cells_about<T: Terrain + ?Sized>(terrain: &T, area: &Hitbox) -> (Range<i32>, Range<i32>) {
    let lines = terrain.grid_lines();
    (
        lines.cells_about(area.left, area.right, terrain.first_column()..terrain.columns()),
        lines.cells_about(area.top, area.bottom, terrain.first_row()..terrain.rows()),
    )
}

#[inline(always)]
fn read_tile<T: Terrain + ?Sized, C: Collect>(terrain: &T, column: i32, row: i32, into: &mut C) {
    let (solids, flat_tops, _) = C::WANTS;
    // Mostly nothing is there.
    let surface_there = terrain.surface(column, row);
    if surface_there == Surface::Empty {
        return;
    }
    let tile = terrain.tile(column, row);
    let (surface_there, tile) =
        (held_surface(terrain, tile.surface), TileProperties { material: tile.material.held(), ..tile });
    let place = terrain.grid_lines().cell(column, row);
    let id = PieceId::Tile { column, row };
    let flat_top = |support, on_ladder| FlatTop { place, id, support, material: tile.material, on_ladder };
    match surface_there {
        Surface::Empty => {}
        Surface::Solid => {
            if solids {
                let (left_hidden, right_hidden) =
                    (is_solid(terrain, column - 1, row), is_solid(terrain, column + 1, row));
                let faces = Faces { left_top: place.top, right_top: place.top, left_hidden, right_hidden };
                into.solid(&Solid { place, id, faces });
            }
            if flat_tops && !is_solid(terrain, column, row - 1) {
                into.flat_top(&flat_top(Support::Solid, false));
            }
        }
        Surface::OneWay => {
            if flat_tops {
                into.flat_top(&flat_top(Support::OneWay, surface(terrain, column, row + 1) == Surface::Ladder));
            }
        }
        Surface::Ladder => {
            into.ladder();
            if flat_tops && is_ladder_top(terrain, column, row) {
                into.flat_top(&flat_top(Support::Ladder, true));
            }
        }
        Surface::Ramp { left_height, right_height } => {
            read_ramp(terrain, (column, row), place, (left_height, right_height), &tile, into);
        }
    }
}

fn read_ramp<T: Terrain + ?Sized, C: Collect>(
    terrain: &T,
    (column, row): (i32, i32),
    place: Hitbox,
    (left_height, right_height): (f64, f64),
    tile: &TileProperties,
    into: &mut C,
) {
    let (solids, _, slopes) = C::WANTS;
    let id = RampId::Tile { column, row };
    let faces = Faces {
        left_top: face_top(terrain, column, row, place.bottom - left_height, false),
        right_top: face_top(terrain, column, row, place.bottom - right_height, true),
        left_hidden: false,
        right_hidden: false,
    };
    if solids {
        into.solid(&Solid { place, id: PieceId::Ramp(id), faces });
    }
    if slopes {
        let ramp = Ramp::of_tile(&place, left_height, right_height, tile.material);
        into.slope(&Slope { id, ramp, place, faces });
    }
}

/// The top of the end face of a tile's ramp; infinite if something solid beside it covers all of it.
fn face_top<T: Terrain + ?Sized>(terrain: &T, column: i32, row: i32, top: f64, right_end: bool) -> f64 {
    let beside = if right_end { column + 1 } else { column - 1 };
    let (x, foot) = (terrain.grid_lines().line(column.max(beside)), terrain.grid_lines().line(row + 1));
    let mut covered = match surface(terrain, beside, row) {
        Surface::Solid => true,
        Surface::Ramp { left_height, right_height } => {
            top < foot && foot - if right_end { left_height } else { right_height } <= top
        }
        Surface::Empty | Surface::OneWay | Surface::Ladder => false,
    };
    if !covered && terrain.features().has(Features::BLOCK) {
        terrain.blocks_near(&Hitbox { left: x, right: x, top, bottom: foot }, &mut |_, block| {
            covered |= block.left <= x && x <= block.right && block.top <= top && block.bottom >= foot;
        });
    }
    if covered { f64::INFINITY } else { top }
}

fn read_block(index: usize, block: &Block, into: &mut impl Collect) {
    let (place, id) = (block.place(), PieceId::Block(index));
    into.solid(&Solid::rectangle(place, id));
    let (support, material) = (Support::Block(index), block.material.held());
    into.flat_top(&FlatTop { place, id, support, material, on_ladder: false });
}

fn drawn(index: usize, ramp: &Ramp) -> Slope {
    let top = f64::INFINITY;
    let faces = Faces { left_top: top, right_top: top, left_hidden: false, right_hidden: false };
    let mut ramp = *ramp;
    ramp.material = ramp.material.held();
    Slope { id: RampId::Drawn(index), ramp, place: ramp.place(), faces }
}

/// The solid edges of the map that the area comes to, as the half-planes they are.
fn read_edges<T: Terrain + ?Sized>(terrain: &T, area: &Hitbox, into: &mut impl Collect) {
    const FAR: f64 = f64::INFINITY;
    let (left, width, top, height) = (terrain.left(), terrain.width(), terrain.top(), terrain.height());
    if area.left > left && area.right < width && area.top > top && area.bottom < height {
        return;
    }
    let (edges, plane) = (terrain.edges(), Hitbox { left: -FAR, right: FAR, top: -FAR, bottom: FAR });
    for (edge, side, place) in [
        (edges.left, Side::Left, Hitbox { right: left, ..plane }),
        (edges.right, Side::Right, Hitbox { left: width, ..plane }),
        (edges.top, Side::Top, Hitbox { bottom: top, ..plane }),
        (edges.bottom, Side::Bottom, Hitbox { top: height, ..plane }),
    ] {
        if edge == Edge::Solid && place.touches(area) {
            let id = PieceId::Edge(side);
            into.solid(&Solid::rectangle(place, id));
            if side == Side::Bottom {
                let (support, material) = (Support::Solid, Material::PLAIN);
                into.flat_top(&FlatTop { place, id, support, material, on_ladder: false });
            }
        }
    }
}

/// What the tile at this place is; outside the map, nothing.
pub(crate) fn surface<T: Terrain + ?Sized>(terrain: &T, column: i32, row: i32) -> Surface {
    if terrain.has_tile(column, row) { held_surface(terrain, terrain.surface(column, row)) } else { Surface::Empty }
}

/// A ramp's heights are held from 0 to the side of a tile, whatever a terrain says.
#[inline]
fn held_surface<T: Terrain + ?Sized>(terrain: &T, surface: Surface) -> Surface {
    match surface {
        Surface::Ramp { left_height, right_height } => {
            let held = |height: f64| if height > 0.0 { height.min(terrain.grid_lines().spacing()) } else { 0.0 };
            Surface::Ramp { left_height: held(left_height), right_height: held(right_height) }
        }
        other => other,
    }
}

#[inline]
fn is_solid<T: Terrain + ?Sized>(terrain: &T, column: i32, row: i32) -> bool {
    terrain.has_tile(column, row) && terrain.is_solid(column, row)
}

/// Whether the top edge of a ladder tile is a surface: nothing of a ladder, nothing solid goes on above.
pub(crate) fn is_ladder_top<T: Terrain + ?Sized>(terrain: &T, column: i32, row: i32) -> bool {
    !matches!(surface(terrain, column, row - 1), Surface::Ladder | Surface::OneWay | Surface::Solid)
}

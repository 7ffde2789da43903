//! A motion that can do all that the controller's can, and more: what it does not come to, nobody comes to.
//!
//! It is told of the middle of the hitbox. From each support it comes to every tile that is within the [bounds](AirBounds) of a flight, and that
//! it gets to through tiles that are not solid; from each support that lies there it goes on. Where it is unsure it takes the freer way: what can
//! be away is no wall, and a platform is in all the places of its route at once.

use std::cmp::Ordering;
use std::collections::BinaryHeap;

use wumple_core::numbers::{PlatformSurface, TakenAlong};
use wumple_core::{Body, DVec2, Edge, Group, Hitbox, Surface, Terrain, Tuning};

use super::bounds::AirBounds;
use super::places::{Spot, Target, on_top, swept};
use crate::files::Level;

/// How far what touches may be away, px.
const TOUCH: f64 = 1.0;

/// What a relaxed motion came to.
pub(super) struct Relaxed {
    /// None where no flight is bounded: then only walls tell.
    bounds: Option<AirBounds>,
    /// By target: whether it was come to.
    reached: Vec<bool>,
    /// The supports it came to: where the middle of the hitbox is on them.
    supports: Vec<Hitbox>,
    regions: Vec<Hitbox>,
    /// How much lower than with its feet at a target's bottom somebody is there already, px.
    over: Vec<f64>,
    tile: f64,
    is_walled_off: Vec<bool>,
}

/// A place where the middle of the hitbox can be, and what is had from there.
struct Region {
    place: Hitbox,
    /// It gives the jump back.
    is_support: bool,
    target: Option<usize>,
}

impl Relaxed {
    pub(super) fn of(level: &Level, tuning: &Tuning, start: DVec2, targets: &[Target]) -> Relaxed {
        let grid = &level.grid;
        // Things that can be carried anywhere can be stood on anywhere, and a platform's upward speed adds to a jump's.
        let takes_along = tuning.leave_with() == TakenAlong::All && !level.platforms.is_empty();
        let bounds = if level.props.is_empty() && !takes_along { AirBounds::of(level, tuning) } else { None };
        let body = *tuning.body();
        let mut regions = regions(level, tuning, &body);
        let first = regions.len();
        for (index, target) in targets.iter().enumerate() {
            regions.extend(target.spot.middles(&body).map(|place| Region {
                place,
                is_support: false,
                target: Some(index),
            }));
        }
        let cells = Cells::of(level, tuning);
        let middle = DVec2::new(start.x, start.y - body.height * 0.5);
        let connected = cells.connected(middle);
        let is_walled_off = |(index, target): (usize, &Target)| {
            let mut own = regions[first..].iter().filter(|region| region.target == Some(index));
            target.spot != Spot::Unknown && own.all(|region| !cells.within(&region.place).any(|cell| connected[cell]))
        };
        let is_walled_off: Vec<bool> = targets.iter().enumerate().map(is_walled_off).collect();
        let mut relaxed = Relaxed {
            reached: is_walled_off.iter().map(|is_walled_off| !is_walled_off).collect(),
            is_walled_off,
            supports: Vec::new(),
            over: targets.iter().map(|target| if target.zone.is_some() { body.height + 1.0 } else { 0.0 }).collect(),
            regions: targets.iter().map(|target| target.spot.middle_box(&body)).collect(),
            tile: grid.grid_lines().spacing(),
            bounds,
        };
        if let Some(bounds) = &relaxed.bounds {
            let mut search = Search {
                on: cells.regions_of(&regions),
                stamps: vec![0; cells.count()],
                touched: vec![false; cells.count()],
                is_in: vec![false; regions.len()],
                reached: vec![false; targets.len()],
                missing: targets.len(),
                across: Vec::new(),
                waiting: BinaryHeap::new(),
                flown: vec![[false; 2]; cells.count()],
                walls: Walls::of(tuning, &body),
                cells,
                regions: &regions,
                bounds,
            };
            search.run(Hitbox { left: middle.x, right: middle.x, top: middle.y, bottom: middle.y });
            let come_to = regions.iter().zip(&search.is_in).filter(|(_, is_in)| **is_in).map(|(region, _)| region);
            relaxed.supports = come_to.filter(|region| region.is_support).map(|region| region.place).collect();
            relaxed.reached = search.reached;
        }
        relaxed
    }

    /// Why a target is out of reach for sure; none if it may be reached.
    pub(super) fn why_not(&self, target: usize) -> Option<String> {
        if self.reached[target] {
            return None;
        }
        if self.is_walled_off[target] {
            return Some("walled off: solid tiles are all around it".to_owned());
        }
        let bounds = self.bounds.as_ref()?;
        let tiles = |px: f64| in_tiles(px / self.tile);
        let place = &self.regions[target];
        // Of a zone the feet are told of, at its bottom.
        let over = self.over[target];
        let lack = |support: &Hitbox| support.top - place.bottom - bounds.lift;
        let rise = self.supports.iter().map(lack).fold(f64::INFINITY, f64::min);
        if rise > bounds.rise() {
            return Some(format!(
                "too high: {} tiles above the highest place that can be reached; nothing rises more than {}",
                tiles(rise + over),
                tiles(bounds.rise())
            ));
        }
        let gap = |support: &Hitbox| {
            let across = bounds.across(lack(support))?;
            let along = along(place, support);
            (along > across).then_some((along, across, lack(support)))
        };
        let nearest = self.supports.iter().filter_map(gap).min_by(|a, b| (a.0 - a.1).total_cmp(&(b.0 - b.1)));
        Some(match nearest {
            Some((along, across, rise)) => {
                let rise = rise + over;
                let height = match rise {
                    _ if rise.abs() < 0.5 => "at the same height".to_owned(),
                    _ if rise > 0.0 => format!("{} tiles higher", tiles(rise)),
                    _ => format!("{} tiles lower", tiles(-rise)),
                };
                format!(
                    "too far: {} tiles from the nearest place that can be reached, {height}; no flight goes further than {} there",
                    tiles(along),
                    tiles(across)
                )
            }
            None => "no way that is free leads there within the height and the length of a flight".to_owned(),
        })
    }
}

/// How far apart they are along, px.
fn along(one: &Hitbox, other: &Hitbox) -> f64 {
    (other.left - one.right).max(one.left - other.right).max(0.0)
}

fn in_tiles(tiles: f64) -> String {
    crate::units::short((tiles * 100.0).round() / 100.0)
}

/// A box with as much around it as there is from the middle of a body to its sides, px.
fn around(place: &Hitbox, body: &Body, more: f64) -> Hitbox {
    let (wide, high) = (body.half_width() + more, body.height * 0.5 + more);
    Hitbox { left: place.left - wide, right: place.right + wide, top: place.top - high, bottom: place.bottom + high }
}

/// All that gives a jump back.
fn regions(level: &Level, tuning: &Tuning, body: &Body) -> Vec<Region> {
    let grid = &level.grid;
    let lines = grid.grid_lines();
    let mut places: Vec<Hitbox> = Vec::new();
    for top in super::places::tops(level, tuning) {
        places.push(top.middles(body));
    }
    let walls = Walls::of(tuning, body);
    // Whatever has a side is a wall.
    let near = TOUCH + if walls.is_some() { tuning.wall_probe() } else { 0.0 };
    let probe = tuning.ladder().map(|ladder| ladder.probe);
    for (column, row) in (0..grid.rows()).flat_map(|row| (0..grid.columns()).map(move |column| (column, row))) {
        match grid.surface(column, row) {
            Surface::Ramp { .. } => places.push(around(&lines.cell(column, row), body, near)),
            Surface::Ladder => {
                if let Some(probe) = probe {
                    places.push(around(&lines.cell(column, row), body, probe + TOUCH));
                }
            }
            _ => {}
        }
    }
    for ramp in grid.ramps() {
        let (left, right) = (ramp.left_end(), ramp.right_end());
        let drawn = Hitbox { left: left.x, right: right.x, top: left.y.min(right.y), bottom: left.y.max(right.y) };
        places.push(around(&drawn, body, near));
    }
    if walls.is_some() {
        places.extend(grid.blocks().iter().map(|block| around(&block.place(), body, near)));
    }
    for (place, platform) in swept(level, tuning).iter().zip(&level.platforms) {
        // What is one-way holds from above alone, and pushes nobody.
        places.push(match platform.surface {
            PlatformSurface::OneWay => on_top(place, platform.size.y, body),
            _ => around(place, body, near),
        });
    }
    places.into_iter().map(|place| Region { place, is_support: true, target: None }).collect()
}

/// How near a wall is felt, where walls are good for anything.
#[derive(Clone, Copy)]
struct Walls {
    wide: f64,
    high: f64,
}

impl Walls {
    fn of(tuning: &Tuning, body: &Body) -> Option<Walls> {
        let of_wall = tuning
            .numbers()
            .wall
            .as_ref()
            .is_some_and(|wall| wall.slide.is_some() || wall.jump.is_some() || wall.hold.is_some());
        let is_any = of_wall || tuning.air_jumps_back_on_wall();
        is_any.then(|| Walls { wide: body.half_width() + tuning.wall_probe() + TOUCH, high: body.height * 0.5 })
    }

    /// Where in a cell the middle of a hitbox is that touches what is solid on its left, or on its right.
    fn beside(&self, cells: &Cells, place: &Hitbox) -> [Option<Hitbox>; 2] {
        let Walls { wide, high } = *self;
        let band = Hitbox { top: place.top - high, bottom: place.bottom + high, ..*place };
        let solids = |left: f64, right: f64| {
            let of_band = cells.within(&Hitbox { left, right, ..band });
            let solid = of_band.filter(|cell| !cells.free[*cell]).map(|cell| cells.place(cell));
            solid.reduce(|one, other| one.around(&other))
        };
        let on_left = solids(place.left - wide, place.left - 2.0 * ROUND).map(|wall| Hitbox {
            right: place.right.min(wall.right + wide),
            top: place.top.max(wall.top - high),
            ..*place
        });
        let on_right = solids(place.right + 2.0 * ROUND, place.right + wide).map(|wall| Hitbox {
            left: place.left.max(wall.left - wide),
            top: place.top.max(wall.top - high),
            ..*place
        });
        [on_left, on_right].map(|felt| felt.filter(|felt| felt.left <= felt.right && felt.top <= felt.bottom))
    }
}

/// The tiles of a level and some around them: where in each the middle of a hitbox can be.
struct Cells {
    /// How many of them are around the map on each side: as many as a body needs to pass there.
    around: i32,
    columns: i32,
    rows: i32,
    tile: f64,
    free: Vec<bool>,
    /// By cell; none where there is no room for the body.
    rooms: Vec<Option<Hitbox>>,
}

impl Cells {
    fn of(level: &Level, tuning: &Tuning) -> Cells {
        let (grid, body) = (&level.grid, tuning.body());
        let around = 2 + (body.height.max(body.width) / grid.grid_lines().spacing()).ceil() as i32;
        let (columns, rows) = (grid.columns() + 2 * around, grid.rows() + 2 * around);
        let edges = grid.edges();
        let meets = |group: Group| level.meetings.meet(tuning.group(), group);
        let meets_level = meets(Group::LEVEL);
        let is_free = |column: i32, row: i32| {
            let is_solid = (column < 0 && edges.left == Edge::Solid)
                || (column >= grid.columns() && edges.right == Edge::Solid)
                || (row < 0 && edges.top == Edge::Solid)
                || (row >= grid.rows() && edges.bottom == Edge::Solid);
            if !grid.has_tile(column, row) {
                return !(is_solid && meets_level);
            }
            // What is a zone may be a gate, and away.
            let tile = grid.tile(column, row);
            tile.surface != Surface::Solid || tile.zone.is_some() || !meets(tile.group)
        };
        let all = (0..rows).flat_map(|row| (0..columns).map(move |column| (column - around, row - around)));
        let free: Vec<bool> = all.map(|(column, row)| is_free(column, row)).collect();
        let mut cells = Cells { around, columns, rows, tile: grid.grid_lines().spacing(), free, rooms: Vec::new() };
        // What a platform or a prop pushes may be pressed into anything.
        let is_pushed = !level.platforms.is_empty() || !level.props.is_empty();
        let room = |cell| if !is_pushed { cells.room(cell, body) } else { Some(cells.place(cell)) };
        cells.rooms = (0..cells.count()).map(|cell| room(cell).filter(|_| cells.free[cell])).collect();
        cells
    }

    /// The part of a cell in which the middle of a hitbox does not press the hitbox into what is solid straight above or below it, or
    /// straight beside it.
    fn room(&self, cell: usize, body: &Body) -> Option<Hitbox> {
        let (column, row) = (cell as i32 % self.columns, cell as i32 / self.columns);
        let place = self.place(cell);
        let solid = |across: i32, down: i32, reach: f64| {
            let steps = (reach / self.tile).ceil() as i32;
            (1..=steps).find_map(|step| {
                let (column, row) = (column + across * step, row + down * step);
                let is_there = (0..self.columns).contains(&column) && (0..self.rows).contains(&row);
                let other = is_there.then(|| (row * self.columns + column) as usize)?;
                (!self.free[other]).then(|| self.place(other))
            })
        };
        let (wide, high) = (body.half_width() - ROUND, body.height * 0.5 - ROUND);
        let room = Hitbox {
            left: solid(-1, 0, wide).map_or(place.left, |wall| place.left.max(wall.right + wide)),
            right: solid(1, 0, wide).map_or(place.right, |wall| place.right.min(wall.left - wide)),
            top: solid(0, -1, high).map_or(place.top, |wall| place.top.max(wall.bottom + high)),
            bottom: solid(0, 1, high).map_or(place.bottom, |wall| place.bottom.min(wall.top - high)),
        };
        (room.left <= room.right && room.top <= room.bottom).then_some(room)
    }

    fn count(&self) -> usize {
        self.free.len()
    }

    fn place(&self, cell: usize) -> Hitbox {
        let (column, row) = (cell as i32 % self.columns, cell as i32 / self.columns);
        let (left, right) = (self.line(column), self.line(column + 1));
        Hitbox { left, right, top: self.line(row), bottom: self.line(row + 1) }
    }

    /// Where a column begins, or a row, px.
    fn line(&self, at: i32) -> f64 {
        f64::from(at - self.around) * self.tile
    }

    /// The cells that a box touches, as far as there are any.
    fn within(&self, place: &Hitbox) -> impl Iterator<Item = usize> + use<> {
        let along = |from: f64, to: f64, count: i32| {
            let at =
                |place: f64| ((place / self.tile).floor().clamp(-1e6, 1e6) as i32 + self.around).clamp(0, count - 1);
            at(from - ROUND)..=at(to + ROUND)
        };
        let (columns, rows) = (along(place.left, place.right, self.columns), along(place.top, place.bottom, self.rows));
        let wide = self.columns;
        rows.flat_map(move |row| columns.clone().map(move |column| (row * wide + column) as usize))
    }

    fn regions_of(&self, regions: &[Region]) -> Vec<Vec<u32>> {
        let mut on = vec![Vec::new(); self.count()];
        for (index, region) in regions.iter().enumerate() {
            self.within(&region.place).for_each(|cell| on[cell].push(index as u32));
        }
        on
    }

    fn neighbours(&self, cell: usize) -> impl Iterator<Item = usize> + use<> {
        let (columns, rows) = (self.columns, self.rows);
        let (column, row) = (cell as i32 % columns, cell as i32 / columns);
        [(-1, 0), (1, 0), (0, -1), (0, 1)].into_iter().filter_map(move |(across, down)| {
            let (column, row) = (column + across, row + down);
            let is_there = (0..columns).contains(&column) && (0..rows).contains(&row);
            is_there.then(|| (row * columns + column) as usize)
        })
    }

    /// Whatever can be come to without regard to heights.
    fn connected(&self, start: DVec2) -> Vec<bool> {
        let mut seen = vec![false; self.count()];
        let point = Hitbox { left: start.x, right: start.x, top: start.y, bottom: start.y };
        let mut waiting: Vec<usize> = self.within(&point).filter(|cell| self.rooms[*cell].is_some()).collect();
        waiting.iter().for_each(|cell| seen[*cell] = true);
        while let Some(cell) = waiting.pop() {
            for next in self.neighbours(cell).filter(|next| self.rooms[*next].is_some()) {
                if !std::mem::replace(&mut seen[next], true) {
                    waiting.push(next);
                }
            }
        }
        seen
    }
}

/// What sums of rounded numbers may be off by, px.
const ROUND: f64 = 0.01;

struct Search<'a> {
    cells: Cells,
    regions: &'a [Region],
    /// The regions that reach into each cell.
    on: Vec<Vec<u32>>,
    bounds: &'a AirBounds,
    walls: Option<Walls>,
    /// By cell: the number of the flight that was there last.
    stamps: Vec<u32>,
    /// By cell: whether any was, and the wall beside it was had.
    touched: Vec<bool>,
    is_in: Vec<bool>,
    /// By target; and how many are not.
    reached: Vec<bool>,
    missing: usize,
    /// By row: how far along the flight that is on comes at its lower end, px; less than nothing where it does not come so high.
    across: Vec<f64>,
    /// From where flights begin that are still to come, the highest first.
    waiting: BinaryHeap<TakeOff>,
    /// By cell: whether a flight began at the wall on its left, on its right.
    flown: Vec<[bool; 2]>,
}

/// From where a flight begins.
struct TakeOff {
    from: Hitbox,
    /// The cell and the side of the wall that it is off.
    wall: Option<(usize, usize)>,
}

impl TakeOff {
    fn height(&self) -> i64 {
        (-self.from.top * 1024.0) as i64
    }
}

impl Ord for TakeOff {
    fn cmp(&self, other: &TakeOff) -> Ordering {
        self.height().cmp(&other.height())
    }
}

impl PartialOrd for TakeOff {
    fn partial_cmp(&self, other: &TakeOff) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl PartialEq for TakeOff {
    fn eq(&self, other: &TakeOff) -> bool {
        self.cmp(other).is_eq()
    }
}

impl Eq for TakeOff {}

impl Search<'_> {
    fn run(&mut self, start: Hitbox) {
        self.waiting.push(TakeOff { from: start, wall: None });
        let mut number = 0;
        while self.missing > 0
            && let Some(TakeOff { from, wall }) = self.waiting.pop()
        {
            if let Some((cell, side)) = wall {
                let is_known = self.is_below_flown(&from, cell, side);
                self.flown[cell][side] = true;
                if is_known {
                    continue;
                }
            }
            number += 1;
            self.fly(&from, number);
        }
    }

    /// Whether a flight began at the same wall a tile higher, from as far along at least: it comes to all that one from here does.
    fn is_below_flown(&self, from: &Hitbox, cell: usize, side: usize) -> bool {
        let (Some(above), Some(walls)) = (cell.checked_sub(self.cells.columns as usize), self.walls) else {
            return false;
        };
        let Some(room) = self.cells.rooms[above].filter(|_| self.flown[above][side]) else { return false };
        let higher = walls.beside(&self.cells, &room)[side];
        higher.is_some_and(|higher| {
            higher.left <= from.left
                && from.right <= higher.right
                && higher.top <= from.top
                && self.cells.within(&higher).any(|of| of == above)
        })
    }

    /// All that can be come to from a support.
    fn fly(&mut self, from: &Hitbox, number: u32) {
        let across = |row: i32| self.across(from, self.cells.line(row + 1));
        self.across = (0..self.cells.rows).map(across).collect();
        let has_room = |cell: &usize| self.cells.rooms[*cell].is_some();
        let mut cells: Vec<usize> = self.cells.within(from).filter(has_room).collect();
        cells.iter().for_each(|cell| self.stamps[*cell] = number);
        while let Some(cell) = cells.pop() {
            self.come_to(cell, from);
            for next in self.cells.neighbours(cell) {
                let Some(room) = self.cells.rooms[next].filter(|_| self.stamps[next] != number) else { continue };
                let row = next as i32 / self.cells.columns;
                let is_whole = room.bottom == self.cells.line(row + 1);
                let across = if is_whole { self.across[row as usize] } else { self.across(from, room.bottom) };
                if along(from, &room) <= across {
                    self.stamps[next] = number;
                    cells.push(next);
                }
            }
        }
    }

    /// How far along a flight from a support can come at a height. It may be set onto a ledge a little higher than where it came to.
    fn across(&self, from: &Hitbox, y: f64) -> f64 {
        self.bounds.across(from.top - y - self.bounds.lift).unwrap_or(f64::NEG_INFINITY)
    }

    fn come_to(&mut self, cell: usize, from: &Hitbox) {
        let Some(room) = self.cells.rooms[cell] else { return };
        let regions = std::mem::take(&mut self.on[cell]);
        for index in regions.iter().map(|index| *index as usize) {
            if self.is_in[index] {
                continue;
            }
            let place = self.regions[index].place;
            let both = Hitbox {
                left: place.left.max(room.left),
                right: place.right.min(room.right),
                top: place.top.max(room.top),
                bottom: place.bottom.min(room.bottom),
            };
            let is_here = both.left <= both.right + TOUCH && both.top <= both.bottom + TOUCH;
            if is_here && along(from, &both) <= self.across(from, both.bottom) {
                self.is_in[index] = true;
                if let Some(target) = self.regions[index].target {
                    self.missing -= usize::from(!std::mem::replace(&mut self.reached[target], true));
                }
                if self.regions[index].is_support {
                    self.waiting.push(TakeOff { from: place, wall: None });
                }
            }
        }
        self.on[cell] = regions;
        if !std::mem::replace(&mut self.touched[cell], true)
            && let Some(walls) = self.walls
        {
            for (side, from) in walls.beside(&self.cells, &room).into_iter().enumerate() {
                self.waiting.extend(from.map(|from| TakeOff { from, wall: Some((cell, side)) }));
            }
        }
    }
}

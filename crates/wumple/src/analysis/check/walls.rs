//! Whether one wall can be climbed without end by jumping off it again and again.

use wumple_core::{Buttons, DVec2, Edge, Edges, Event, Grid, JumpedFrom, TileProperties, World};

use super::{Finding, FindingKind};
use crate::files::TuningFile;
use crate::units::short;

/// How many jumps off the wall are tried.
const JUMPS: usize = 8;
/// Ticks between touching the wall and the press, one try each.
const WAITS: [u64; 5] = [0, 2, 5, 9, 14];

pub(super) fn check(tuning: &TuningFile, found: &mut Vec<Finding>) {
    let numbers = tuning.tuning.numbers();
    let Some(jump) = numbers.wall.as_ref().and_then(|wall| wall.jump) else { return };
    if !jump.same_wall {
        return;
    }
    let tile = tuning.scale.tile;
    let gained = WAITS.into_iter().filter_map(|wait| climbed(tuning, wait)).fold(0.0, f64::max);
    if gained > tile {
        let words = [
            format!("{JUMPS} jumps off one wall, steering back each time, gain {} tiles", short(gained / tile)),
            "any wall is climbed for ever, and no height keeps anybody out".into(),
            "same_wall = false in [wall.jump], a longer steer_lock, more push or less height".into(),
        ];
        found.push(Finding::new(FindingKind::WallClimbedForEver, tuning.place_of("wall"), words));
    }
}

/// How much higher the last jump off the wall began than the first, px, steering back to it all the time.
fn climbed(tuning: &TuningFile, wait: u64) -> Option<f64> {
    let (tile, body) = (tuning.scale.tile, tuning.tuning.body());
    let jump = tuning.tuning.full_jump().1.max(tile);
    let rows = ((jump * (JUMPS as f64 + 4.0) / tile).ceil() as usize).clamp(20, 4000);
    let columns = 64;
    let wall = |at: usize| u8::from(at.is_multiple_of(columns) || at / columns == rows - 1);
    let tiles = (0..columns * rows).map(wall).collect();
    let edges = Edges { top: Edge::Open, ..Edges::default() };
    let map = Grid::new(columns, tiles, tile, &[TileProperties::EMPTY, TileProperties::SOLID], edges).ok()?;
    let feet = DVec2::new(tile + body.width, (rows - 1) as f64 * tile);
    let mut world = World::new(map);
    let id = world.add_character(tuning.tuning.clone(), feet).ok()?;
    let (mut heights, mut touched, mut was_pressed) = (Vec::new(), 0, false);
    for _ in 0..(tuning.tuning.rate() * 20.0) as u64 {
        let report = world.report(id);
        let on_wall = report.contacts.left && !report.contacts.below;
        touched = if on_wall { touched + 1 } else { 0 };
        // From the ground at once; off the wall when so many ticks are over.
        let due = report.contacts.below || (on_wall && touched > wait);
        let jumps = due && !was_pressed;
        let held = Buttons { left: true, jump: jumps || (was_pressed && !due), ..Buttons::NONE };
        was_pressed = held.jump && !due || jumps;
        world.tick(&[held]);
        let report = world.report(id);
        if report.events.contains(&Event::Jumped(JumpedFrom::Wall)) {
            heights.push(report.from.y);
            if heights.len() == JUMPS {
                return Some(heights[0] - heights[JUMPS - 1]);
            }
        }
    }
    None
}

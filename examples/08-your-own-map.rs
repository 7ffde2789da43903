//! The map that a game has already, behind the terrain trait: here a string of bytes a row, and crates in it.

use wumple::advanced::Features;
use wumple::{
    Block, Buttons, DVec2, Edges, GridLines, Hitbox, Surface, Terrain, TileProperties, Tuning, TuningNumbers, World,
    ZoneKind,
};

/// A level of the game, in its own form.
struct Cellar {
    cells: &'static [&'static [u8]],
    /// Solid things that are on no grid.
    crates: Vec<Block>,
}

impl Terrain for Cellar {
    fn grid_lines(&self) -> GridLines {
        GridLines::new(16.0)
    }

    fn columns(&self) -> i32 {
        self.cells[0].len() as i32
    }

    fn rows(&self) -> i32 {
        self.cells.len() as i32
    }

    fn tile(&self, column: i32, row: i32) -> TileProperties {
        match self.cells[row as usize][column as usize] {
            b'B' => TileProperties::SOLID,
            b'p' => TileProperties::ONE_WAY,
            b'r' => TileProperties::of(Surface::Ramp { left_height: 0.0, right_height: 16.0 }),
            b'x' => TileProperties::zone(ZoneKind::Goal),
            _ => TileProperties::EMPTY,
        }
    }

    fn edges(&self) -> Edges {
        Edges::default()
    }

    /// Nothing ever changes here: what is near somebody is read once, and kept until they have gone on. A map that
    /// changes counts its changes.
    fn revision(&self) -> Option<u64> {
        Some(0)
    }

    /// Asked most often: answered without looking up anything else.
    fn is_solid(&self, column: i32, row: i32) -> bool {
        self.cells[row as usize][column as usize] == b'B'
    }

    /// There are no ladders, nor floors that are slippery or throw up: nothing is looked for in vain.
    fn features(&self) -> Features {
        Features::SOLID | Features::ONE_WAY | Features::RAMP | Features::ZONE | Features::BLOCK
    }

    /// A game with many of them asks its own index here.
    fn blocks_near(&self, area: &Hitbox, visit: &mut dyn FnMut(usize, &Block)) {
        let near = self.crates.iter().enumerate().filter(|(_, block)| block.place().touches(area));
        near.for_each(|(number, block)| visit(number, block));
    }
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let cellar = Cellar {
        cells: &[
            b"..............x.",
            b"..............BB",
            b".........ppp....",
            b"................",
            b"...rB...........",
            b"BBBBBBBBBBBBBBBB",
        ],
        crates: vec![Block::new(DVec2::new(118.0, 62.0), 22.0, 18.0)],
    };
    // The map stays the game's: a world may borrow it.
    let mut world = World::new(&cellar);
    let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(44.0, 0.35))?;
    let dab = world.add_character(tuning, DVec2::new(24.0, 80.0))?;
    let mut last = None;
    for tick in 1..=180 {
        let jump = (46..62).contains(&tick) || (86..110).contains(&tick) || (126..150).contains(&tick);
        world.tick(&[Buttons {
            right: tick < 60 || (80..104).contains(&tick) || (122..150).contains(&tick),
            jump,
            ..Buttons::NONE
        }]);
        let report = world.report(dab);
        if last != Some(report.support) || !report.events.is_empty() {
            let events: Vec<String> = report.events.iter().map(ToString::to_string).collect();
            println!("{tick:4}  on {:10}  {:18}  {}", report.support.to_string(), events.join(" "), report.feet);
            last = Some(report.support);
        }
    }
    println!("{} tiles wide; at the end Dab is at {}", cellar.columns(), world.report(dab).feet);
    Ok(())
}

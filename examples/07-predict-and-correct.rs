//! Two players over a network: predict what the other holds, correct it when the truth comes, step again.

use std::collections::VecDeque;

use wumple::{Buttons, CharacterId, DVec2, Edges, Grid, Saved, Tuning, TuningNumbers, World};

/// How many ticks late the other player's buttons arrive.
const LATE: u64 = 7;

/// The world here and now, and what it takes to go back to the last tick that is known for certain.
struct Match {
    world: World<Grid>,
    ours: VecDeque<Buttons>,
    /// What the other player held last, as far as we know: the prediction is that it is still held.
    theirs: Buttons,
    /// The end of the last tick of which both players' buttons are known.
    certain: Saved,
}

impl Match {
    /// A tick with our buttons, the other's predicted.
    fn tick(&mut self, held: Buttons) {
        self.ours.push_back(held);
        self.world.tick(&[held, self.theirs]);
    }

    /// What the other player held in the first tick that is not certain arrives. Says how many ticks had to
    /// be made again.
    fn correct(&mut self, held: Buttons) -> usize {
        let predicted = std::mem::replace(&mut self.theirs, held);
        let ours = self.ours.pop_front().expect("a tick was made before its buttons arrived");
        let now = self.world.ticks();
        self.world.restore(&self.certain);
        self.world.tick(&[ours, held]);
        self.world.save_into(&mut self.certain);
        let again = if predicted == held { 0 } else { self.ours.len() };
        // A prediction that held could be left as it is: a game would keep a state for each tick then.
        self.ours.iter().for_each(|ours| self.world.tick(&[*ours, held]));
        assert_eq!(self.world.ticks(), now);
        again
    }
}

fn world() -> Result<(World<Grid>, [CharacterId; 2]), Box<dyn std::error::Error>> {
    let rows = ["....................", "....................", "......##............", "####################"];
    let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default())?);
    let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    let one = world.add_character(tuning.clone(), DVec2::new(24.0, 48.0))?;
    let other = world.add_character(tuning, DVec2::new(280.0, 48.0))?;
    Ok((world, [one, other]))
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let ours = |tick: u64| Buttons { right: tick < 90, jump: (40..60).contains(&tick), ..Buttons::NONE };
    let theirs = |tick: u64| Buttons { left: tick < 70, jump: tick % 50 < 12, ..Buttons::NONE };

    let (world, [us, them]) = world()?;
    let certain = world.save();
    println!("a saved state of two characters takes {} bytes", certain.size_in_bytes());
    let mut game = Match { world, ours: VecDeque::new(), theirs: Buttons::NONE, certain };
    let mut corrections = 0;
    for tick in 1..=200 {
        game.tick(ours(tick));
        if tick > LATE {
            let before = game.world.report(them).feet;
            let again = game.correct(theirs(tick - LATE));
            let moved = game.world.report(them).feet - before;
            if again > 0 {
                corrections += 1;
                println!("tick {tick:3}: {again} ticks made again; they are ({:+.1}, {:+.1}) px off", moved.x, moved.y);
            }
        }
    }
    (200 - LATE + 1..=200).for_each(|tick| {
        game.correct(theirs(tick));
    });

    // Whoever knew everything from the start has the same world, to the bit.
    let (mut known, _) = self::world()?;
    (1..=200).for_each(|tick| known.tick(&[ours(tick), theirs(tick)]));
    for id in [us, them] {
        assert_eq!(game.world.report(id), known.report(id));
    }
    println!(
        "{corrections} corrections, and in the end both agree: {} and {}",
        known.report(us).feet,
        known.report(them).feet
    );
    Ok(())
}

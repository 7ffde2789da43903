use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::{RngCore, SeedableRng};

use super::buttons::Timeline;
use wumple_core::Buttons;

/// Input to practise on: jump pressed again and again, with something else held all the time.
///
/// The same numbers make the same input, on every machine.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PracticeInput {
    /// From one press to the next, ticks; at least 2.
    pub every: u64,
    /// By how much each press may come earlier or later, at random, ticks; at most half of `every` less 1.
    pub vary: u64,
    /// The longest hold, ticks; each is at random from 1 to this, and ends before the next press.
    pub hold: u64,
    /// What is held all the time.
    pub with: Buttons,
    /// How long it goes on, ticks.
    pub ticks: u64,
    /// Says which of all such inputs it is.
    pub seed: u64,
}

impl PracticeInput {
    /// What is held in each tick.
    ///
    /// # Panics
    ///
    /// If `every` is below 2, `hold` is 0, or `vary` is more than half of `every` less 1.
    pub fn timeline(&self) -> Timeline {
        let PracticeInput { every, vary, hold, with, ticks, seed } = *self;
        assert!(every >= 2, "presses {every} ticks apart: at least 2 are needed to let go between them");
        assert!(2 * vary + 2 <= every, "presses that vary by {vary} ticks need to be {} ticks apart", 2 * vary + 2);
        assert!(hold > 0, "a press is held for one tick at least");
        let mut random = ChaCha8Rng::seed_from_u64(seed);
        // The upper half of the product: the same on every machine, whatever a library thinks of ranges.
        let mut up_to = |most: u64| ((u128::from(random.next_u64()) * u128::from(most + 1)) >> 64) as u64;
        let mut changes = vec![(0, with)];
        let presses = (1..).map(|number| number * every - vary).take_while(|earliest| *earliest <= ticks);
        let mut press = None;
        for earliest in presses.map(Some).chain([None]) {
            let next = earliest.map(|earliest| earliest + up_to(2 * vary));
            if let Some(pressed) = press {
                let longest = hold.min(next.map_or(hold, |next: u64| next - pressed - 1)).max(1);
                changes.push((pressed, Buttons { jump: true, ..with }));
                changes.push((pressed + 1 + up_to(longest - 1), with));
            }
            press = next;
        }
        Timeline::new(changes)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn presses_come_as_often_as_asked_and_are_let_go_between(
            every in 2u64..60, vary in 0u64..30, hold in 1u64..80, ticks in 0u64..2000, seed: u64,
        ) {
            let vary = vary.min((every - 2) / 2);
            let with = Buttons { right: true, ..Buttons::NONE };
            let input = PracticeInput { every, vary, hold, with, ticks, seed };
            let timeline = input.timeline();
            prop_assert_eq!(&timeline, &input.timeline());
            let held = |tick: u64| timeline.at(tick).jump;
            let pressed: Vec<u64> = (1..=ticks + 2 * every).filter(|tick| held(*tick) && !held(tick - 1)).collect();
            prop_assert_eq!(pressed.len() as u64, (ticks + vary) / every);
            for (number, tick) in pressed.iter().enumerate() {
                prop_assert!(tick.abs_diff((number as u64 + 1) * every) <= vary);
                prop_assert!((1..=hold + 1).any(|later| !held(tick + later)), "let go in time");
            }
            prop_assert!((0..ticks).all(|tick| timeline.at(tick).right));
        }
    }

    #[test]
    fn a_seed_says_which() {
        let input = PracticeInput { every: 24, vary: 6, hold: 12, with: Buttons::NONE, ticks: 120, seed: 7 };
        assert_ne!(input.timeline(), PracticeInput { seed: 8, ..input }.timeline());
        // Pinned: a practised input must not change under anybody's feet.
        assert_eq!(
            input.timeline().to_text(60.0),
            "rate 60\n0      -\n20     jump\n29     -\n44     jump\n52     -\n75     jump\n76     -\n94     jump\n99     -\n125    jump\n137    -\n"
        );
    }
}

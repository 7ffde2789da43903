use crate::input::Buttons;

/// Keeps what was pressed between two ticks, so that no press is lost: a tap that began and ended there
/// counts as held for one tick; a button let go and pressed again there is let go for one tick first, so
/// that the press is a fresh one.
///
/// Show it what is held as often as you look, at least once a frame; take from it once a tick.
///
/// ```
/// use wumple_core::{ButtonLatch, Buttons};
///
/// let jump = Buttons { jump: true, ..Buttons::NONE };
/// let mut latch = ButtonLatch::default();
/// latch.see(jump); //         down
/// latch.see(Buttons::NONE); // and up again, before any tick
/// assert!(latch.take().jump); // this tick holds it,
/// assert!(!latch.take().jump); // the next does not
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct ButtonLatch {
    seen: Buttons,
    /// What the last tick was given, a bit a button.
    given: u32,
    /// Presses that no tick was given yet.
    due: u32,
}

impl ButtonLatch {
    /// This is held now. Sticks are taken as they are now: only presses of buttons are kept.
    pub fn see(&mut self, held: Buttons) {
        self.due |= bits(&held) & !bits(&self.seen);
        self.seen = held;
    }

    /// What the next tick holds.
    pub fn take(&mut self) -> Buttons {
        let fresh = self.due & !self.given;
        let pressed_again = self.due & self.given;
        self.given = (bits(&self.seen) | fresh) & !pressed_again;
        self.due = pressed_again;
        with_bits(self.seen, self.given)
    }
}

fn bits(held: &Buttons) -> u32 {
    let all = Buttons::ALL.iter().enumerate();
    all.fold(0, |bits, (index, button)| bits | u32::from(button.is_held(held)) << index)
}

fn with_bits(sticks: Buttons, bits: u32) -> Buttons {
    let mut buttons = sticks;
    Buttons::ALL.iter().enumerate().for_each(|(index, button)| button.hold(&mut buttons, bits >> index & 1 != 0));
    buttons
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::string::String;

    /// What ticks are given of a button, as `#` and `.`, of what is seen before each.
    fn given(seen: &[&str]) -> [String; 2] {
        let of = |held: bool| [Buttons { jump: held, ..Buttons::NONE }, Buttons { left: held, ..Buttons::NONE }];
        [0, 1].map(|which| {
            let mut latch = ButtonLatch::default();
            let tick = |before: &&str| {
                before.chars().for_each(|letter| latch.see(of(letter == '#')[which]));
                let held = latch.take();
                if held == of(true)[which] { '#' } else { '.' }
            };
            seen.iter().map(tick).collect()
        })
    }

    #[test]
    fn every_press_is_a_press_of_some_tick() {
        let table: [(&[&str], &str); 8] = [
            (&["", "#", "", "", "."], ".###."),
            (&["#.", "", ""], "#.."),
            (&["", "#.", "", ""], ".#.."),
            (&["#", ".#", "", "", "."], "#.##."),
            (&["#", ".#.", "", ""], "#.#."),
            (&["#.#.#.", "", ""], "#.."),
            (&["#", "", ".", "#", "."], "##.#."),
            (&["#", ".#.#", "", ".", ""], "#.#.."),
        ];
        for (seen, expected) in table {
            assert_eq!(given(seen), [expected, expected], "{seen:?}");
        }
    }

    #[test]
    fn sticks_are_as_they_are_now() {
        let mut latch = ButtonLatch::default();
        latch.see(Buttons { steer: 0.7, climb: -0.2, ..Buttons::NONE });
        latch.see(Buttons { steer: 0.3, ..Buttons::NONE });
        assert_eq!(latch.take(), Buttons { steer: 0.3, ..Buttons::NONE });
    }
}

//! Whole moves, from one place to stand on to the next: a walk, leaps of several kinds. They find most of a level in few ticks.

use wumple_core::{Buttons, Support};

use super::choices::Choices;
use super::run::Run;

/// No move is followed for longer, s.
const LONGEST: f64 = 3.0;
/// How long a short press is, s.
const SHORT: f64 = 0.1;
/// No move has more parts of one and the same held.
pub(super) const MOST_PARTS: usize = 12;

/// A move.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Stride {
    /// Along, to the end of the walk or off the edge.
    Walk,
    /// The button held all the way.
    Leap,
    /// The button let go soon.
    Hop,
    /// Straight up, and aside where it is highest.
    UpAndAside,
    /// Aside, and back where it is highest.
    AsideAndBack,
    /// Pressed again where it is highest.
    Twice,
    /// Pressed again, away from it, at each wall.
    OffWalls,
    /// Down through what is thin.
    Drop,
}

/// A move to one side, or straight up.
#[derive(Clone, Copy, Debug)]
pub(super) struct Move {
    stride: Stride,
    side: Buttons,
}

const NONE: Buttons = Buttons::NONE;
const RIGHT: Buttons = Buttons { right: true, ..NONE };
const LEFT: Buttons = Buttons { left: true, ..NONE };

fn other(side: Buttons) -> Buttons {
    Buttons { left: side.right, right: side.left, ..NONE }
}

/// The few that find most.
pub(super) fn walks_and_leaps() -> [Move; 5] {
    let [walk, leap] = [Stride::Walk, Stride::Leap];
    [(walk, RIGHT), (walk, LEFT), (leap, RIGHT), (leap, LEFT), (leap, NONE)].map(|(stride, side)| Move { stride, side })
}

/// Those that may be of use to a character.
pub(super) fn moves(ways: &Choices) -> Vec<Move> {
    let mut strides = vec![Stride::Walk, Stride::Leap, Stride::Hop, Stride::UpAndAside, Stride::AsideAndBack];
    strides.extend(ways.air_jumps.then_some(Stride::Twice));
    strides.extend(ways.wall_jumps.then_some(Stride::OffWalls));
    let aside = strides.iter().flat_map(|stride| [RIGHT, LEFT].map(|side| Move { stride: *stride, side }));
    let upright = [Stride::Leap, Stride::Drop].map(|stride| Move { stride, side: NONE });
    let mut all: Vec<Move> = aside.chain(upright).collect();
    all.extend((ways.air_jumps).then_some(Move { stride: Stride::Twice, side: NONE }));
    all
}

impl Move {
    /// Plays it, until something holds it up again; a walk, for so many px at most. `tick` is told of what is held in each tick, and says whether it goes on; whether it ended
    /// well.
    pub(super) fn play(
        self,
        run: &mut Run<'_>,
        rate: f64,
        walk: f64,
        mut tick: impl FnMut(&mut Run<'_>, Buttons) -> bool,
    ) -> bool {
        let Move { stride, side } = self;
        let start = run.feet();
        let most = (LONGEST * rate) as u32;
        let short = (SHORT * rate).ceil() as u32;
        let (mut towards, mut is_past_apex, mut has_left, mut pressed_again) = (side, false, false, false);
        for number in 1..=most {
            let jump = |towards: Buttons| Buttons { jump: true, ..towards };
            let held = match stride {
                Stride::Walk => side,
                Stride::Drop if number == 1 => Buttons { down: true, jump: true, ..NONE },
                Stride::Drop => NONE,
                Stride::Leap => jump(side),
                Stride::Hop if number <= short => jump(side),
                Stride::Hop => side,
                Stride::UpAndAside if !is_past_apex => jump(NONE),
                Stride::UpAndAside => jump(side),
                Stride::AsideAndBack if !is_past_apex => jump(side),
                Stride::AsideAndBack => jump(other(side)),
                // Let go for a tick, to be pressed again.
                Stride::Twice if is_past_apex && !pressed_again => {
                    pressed_again = true;
                    side
                }
                Stride::Twice => jump(side),
                Stride::OffWalls => {
                    let wall = run.wall();
                    if has_left && !pressed_again && wall.is_some() {
                        pressed_again = true;
                        towards
                    } else {
                        if let (true, Some(wall)) = (pressed_again, wall) {
                            towards = other(wall);
                        }
                        pressed_again = false;
                        jump(towards)
                    }
                }
            };
            if !tick(run, held) {
                return false;
            }
            let report = run.playing.report();
            let stands = report.support != Support::None;
            has_left |= !stands;
            is_past_apex |= has_left && report.velocity.y >= 0.0;
            if (has_left && stands) || (!has_left && (report.feet.x - start.x).abs() >= walk) {
                return true;
            }
        }
        false
    }
}

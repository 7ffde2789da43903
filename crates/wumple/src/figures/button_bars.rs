//! The buttons held, each a strip of bars under a time series.

use super::sheet::{Align, Area, INK, SMOKE, Sheet, stroke};
use crate::files::Timeline;
use wumple_core::{Button, Buttons};

/// The height of a bar.
pub(super) const BAR: f64 = 14.0;
/// From the top of one strip to the top of the next.
pub(super) const STRIP: f64 = BAR + 4.0;

/// The buttons that are held at some time of a run.
pub(super) struct ButtonBars<'a> {
    timeline: &'a Timeline,
    ticks: u64,
    bars: Vec<Button>,
}

impl ButtonBars<'_> {
    /// Of the ticks from 1 to `ticks`.
    pub(super) fn new(timeline: &Timeline, ticks: u64) -> ButtonBars<'_> {
        let is_held = |button: &Button| (1..=ticks).any(|tick| button.amount(&timeline.at(tick)) > 0.0);
        ButtonBars { timeline, ticks, bars: Buttons::ALL.iter().copied().filter(is_held).collect() }
    }

    /// How high all strips are together.
    pub(super) fn height(&self) -> f64 {
        self.bars.len() as f64 * STRIP
    }

    /// Draws the strips from `top` down; `at` says where on the page the end of a tick is.
    pub(super) fn draw(&self, sheet: &mut Sheet<'_>, (left, right, top): (f64, f64, f64), at: impl Fn(f64) -> f64) {
        for (index, button) in self.bars.iter().enumerate() {
            let bottom = top + index as f64 * STRIP + BAR;
            sheet.text((left - 9.0, bottom - 3.0), 11.0, Align::Right, button.name);
            sheet.line(&[(left, bottom), (right, bottom)], stroke(SMOKE, 0.6).faint(0.6));
            let mut from = 1;
            for tick in 1..=self.ticks {
                let (now, next) = (button.amount(&self.timeline.at(tick)), button.amount(&self.timeline.at(tick + 1)));
                if now != next || tick == self.ticks {
                    if now > 0.0 {
                        let (left, right) = (at(from as f64 - 1.0), at(tick as f64));
                        sheet.fill_area(&Area { left, right, top: bottom - BAR * now, bottom }, INK, 0.75);
                    }
                    from = tick + 1;
                }
            }
        }
    }
}

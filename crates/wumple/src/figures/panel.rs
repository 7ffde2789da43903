//! A panel of a time series: its own scale along each axis, round numbers at the sides.

use super::sheet::{Align, Area, INK, Point, SMOKE, Sheet, stroke};
use crate::units::short;

/// A framed part of the page with a scale along each axis; the second coordinate grows upward.
#[derive(Clone, Copy, Debug)]
pub(super) struct Panel {
    pub(super) area: Area,
    pub(super) x: (f64, f64),
    pub(super) y: (f64, f64),
}

impl Panel {
    /// Where a place lies on the page.
    pub(super) fn at(&self, x: f64, y: f64) -> Point {
        let share = |value: f64, (low, high): (f64, f64)| (value - low) / (high - low);
        (
            self.area.left + share(x, self.x) * self.area.width(),
            self.area.bottom - share(y, self.y) * self.area.height(),
        )
    }

    /// Grid lines and numbers on the left, in `unit`s of the second coordinate, and on the right the same
    /// in units of one.
    pub(super) fn levels(&self, sheet: &mut Sheet<'_>, unit: f64, names: (&str, &str)) {
        let Area { left, right, top, bottom } = self.area;
        let step = round_step((self.y.1 - self.y.0) / unit, 7.0) * unit;
        for value in multiples(self.y, step) {
            let y = self.at(self.x.0, value).1;
            sheet.line(&[(left, y), (right, y)], stroke(SMOKE, 0.6).faint(0.45));
            sheet.line(&[(left - 5.0, y), (left, y)], stroke(INK, 1.0));
            sheet.line(&[(right, y), (right + 5.0, y)], stroke(INK, 1.0));
            sheet.text((left - 9.0, y + 4.0), 12.0, Align::Right, &short(value / unit));
            sheet.text((right + 9.0, y + 4.0), 11.0, Align::Left, &short(value));
        }
        sheet.upward_text((left - 44.0, (top + bottom) / 2.0), 12.0, Align::Middle, names.0);
        sheet.text((right + 14.0, top - 8.0), 11.0, Align::Left, names.1);
        sheet.outline(&self.area, stroke(INK, 1.0));
    }

    /// Grid lines and round numbers on the left.
    pub(super) fn values(&self, sheet: &mut Sheet<'_>, name: &str) {
        let Area { left, right, top, bottom } = self.area;
        for value in multiples(self.y, round_step(self.y.1 - self.y.0, 10.0)) {
            let y = self.at(self.x.0, value).1;
            sheet.line(&[(left, y), (right, y)], stroke(SMOKE, 0.6).faint(0.45));
            sheet.line(&[(left - 5.0, y), (left, y)], stroke(INK, 1.0));
            sheet.text((left - 9.0, y + 4.0), 12.0, Align::Right, &short(value));
        }
        sheet.upward_text((left - 48.0, (top + bottom) / 2.0), 12.0, Align::Middle, name);
        sheet.outline(&self.area, stroke(INK, 1.0));
    }

    /// Grid lines along x at round numbers; the numbers beneath if `named`, with the axis's name.
    pub(super) fn times(&self, sheet: &mut Sheet<'_>, named: Option<&str>) {
        let Area { left, right, top, bottom } = self.area;
        for value in multiples(self.x, round_step(self.x.1 - self.x.0, 12.0)) {
            let x = self.at(value, self.y.0).0;
            sheet.line(&[(x, top), (x, bottom)], stroke(SMOKE, 0.6).faint(0.45));
            if named.is_some() {
                sheet.line(&[(x, bottom), (x, bottom + 5.0)], stroke(INK, 1.0));
                sheet.text((x, bottom + 18.0), 12.0, Align::Middle, &short(value));
            }
        }
        if let Some(name) = named {
            sheet.text(((left + right) / 2.0, bottom + 36.0), 12.0, Align::Middle, name);
        }
    }

    /// Ticks at the top, numbered at round steps.
    pub(super) fn ticks(&self, sheet: &mut Sheet<'_>, rate: f64, name: &str) {
        let Area { left, top, .. } = self.area;
        let step = round_step((self.x.1 - self.x.0) * rate, 15.0).max(1.0);
        for tick in multiples((self.x.0 * rate, self.x.1 * rate), step) {
            let x = self.at(tick / rate, self.y.0).0;
            sheet.line(&[(x, top), (x, top - 5.0)], stroke(INK, 1.0));
            sheet.text((x, top - 9.0), 11.0, Align::Middle, &short(tick));
        }
        sheet.text((left - 9.0, top - 9.0), 11.0, Align::Right, name);
    }
}

/// A step of 1, 2 or 5 times a power of ten that divides a range into about so many parts.
fn round_step(range: f64, parts: f64) -> f64 {
    let rough = range / parts;
    let power = 10f64.powf(rough.log10().floor());
    let factor = [1.0, 2.0, 5.0, 10.0].into_iter().find(|factor| factor * power >= rough * 0.999).unwrap_or(10.0);
    factor * power
}

/// The multiples of a step within a range.
fn multiples((low, high): (f64, f64), step: f64) -> impl Iterator<Item = f64> {
    let (first, last) = ((low / step - 1e-9).ceil() as i64, (high / step + 1e-9).floor() as i64);
    (first..=last).map(move |index| index as f64 * step)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn steps_are_round_and_multiples_lie_within() {
        assert_eq!([0.7, 3.4, 66.0, 900.0].map(|range| round_step(range, 7.0)), [0.1, 0.5, 10.0, 200.0]);
        assert_eq!(multiples((-0.25, 0.5), 0.25).collect::<Vec<_>>(), [-0.25, 0.0, 0.25, 0.5]);
        assert_eq!(multiples((0.01, 0.24), 0.25).count(), 0);
    }
}

//! Steps as the text of a level.

use std::fmt::Write as _;

use wumple_core::DVec2;

use super::StepKind;
use crate::units::{Scale, short};

/// A step that has its place.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Placed {
    pub(super) kind: StepKind,
    /// Its middle, px to the right of the start.
    pub(super) middle: f64,
    /// How high above the floor its top is, px.
    pub(super) height: f64,
    pub(super) width: f64,
    pub(super) rise: f64,
    pub(super) apart: f64,
    pub(super) draws: u32,
}

/// A level that was made.
pub(super) struct Made {
    pub(super) text: String,
    /// The name of the last step.
    pub(super) last: String,
    /// Where the feet are on the first step.
    pub(super) on_first: DVec2,
}

/// How thick a step is, px.
const THICK: f64 = 6.0;
/// Tiles at both sides of the steps, and above the last.
const ASIDE: f64 = 4.0;
const ABOVE: f64 = 7.0;

/// A level of these steps over a floor, the start in it beneath where they are reckoned from, a goal on the last.
pub(super) fn of_steps(steps: &[Placed], name: &str, scale: &Scale) -> Made {
    let tile = scale.tile;
    let reach = |step: &Placed| if step.kind == StepKind::Platform { 2.0 * tile } else { 0.0 };
    let left = steps.iter().map(|step| step.middle - step.width * 0.5).fold(0.0, f64::min);
    let right = steps.iter().map(|step| step.middle + step.width * 0.5 + reach(step)).fold(0.0, f64::max);
    // The start is in the middle of a tile.
    let before = (-left / tile).ceil() + ASIDE;
    let columns = (before + (right / tile).ceil() + ASIDE + 1.0) as usize;
    let start = (before + 0.5) * tile;
    let highest = steps.iter().map(|step| step.height).fold(0.0, f64::max);
    let above = (highest / tile).ceil() + ABOVE;
    let (rows, floor) = (above as usize, above * tile);
    let mut text =
        format!("name = \"{name}\"\ntile = {}\n\n[edges]\nleft = \"solid\"\nright = \"solid\"\n", short(tile));
    let corner = |step: &Placed| (start + step.middle - step.width * 0.5, floor - step.height);
    let mut last = String::new();
    for (number, step) in steps.iter().enumerate() {
        let (x, y) = corner(step);
        last = format!("{}-{}", step.kind, number + 1);
        let _ = write!(
            text,
            "\n[[platform]]\nid = \"{last}\"\nsize = [{}, {THICK}]\nsurface = \"one-way\"\n",
            short(step.width)
        );
        let (px, py) = (short(x), short(y));
        let _ = match step.kind {
            StepKind::Shelf => writeln!(text, "route = [[{px}, {py}]]"),
            StepKind::Slab => {
                writeln!(
                    text,
                    "route = [[{px}, {py}]]\ncrumble = {{ after = \"0.8 s\", over = \"0.3 s\", back_after = \"2 s\" }}"
                )
            }
            StepKind::Platform => {
                writeln!(text, "route = [[{px}, {py}], [{}, {py}]]\nspeed = \"2 tiles/s\"", short(x + reach(step)))
            }
            StepKind::Bellows => writeln!(text, "route = [[{px}, {py}]]\nbounce = {{ height = \"4 tiles\" }}"),
        };
    }
    if let Some(step) = steps.last() {
        let (x, y) = corner(step);
        let _ = write!(
            text,
            "\n[[zone]]\nid = \"top\"\nkind = \"goal\"\nat = [{}, {}]\nsize = [{}, {}]\nmargin = 1\n",
            short(x),
            short(y - tile * 0.5),
            short(step.width + reach(step)),
            short(tile * 0.5)
        );
    }
    text += "\n[map]\nrows = '''\n";
    for row in 0..=rows {
        let mut letters = vec![if row == rows { '#' } else { '.' }; columns];
        if row + 1 == rows {
            letters[before as usize] = '@';
        }
        text.extend(letters);
        text.push('\n');
    }
    text += "'''\n";
    let on_first =
        steps.first().map_or(DVec2::new(start, floor), |step| DVec2::new(start + step.middle, floor - step.height));
    Made { text, last, on_first }
}

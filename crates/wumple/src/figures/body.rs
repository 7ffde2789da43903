use super::Figure;
use super::frame::{Frame, Vertical};
use super::sheet::{
    Align, Area, CELADON, COBALT, Colour, Dash, INK, OCHRE, PLUM, SMOKE, Sheet, TERRACOTTA, Words, stroke,
};
use crate::analysis::picture_notes;
use crate::files::TuningFile;
use crate::units::short;

const AREA: Area = Area { left: 76.0, top: 100.0, right: 720.0, bottom: 722.0 };
/// Where the list of what is drawn begins.
const LIST: (f64, f64) = (800.0, 116.0);

/// What is drawn around a body: its colour, where, in px from the wall's face and the floor, and its words.
struct Part {
    colour: Colour,
    boxes: Vec<((f64, f64), (f64, f64))>,
    words: String,
}

/// Draws a hitbox and what it feels around it, at scale beside tiles: standing on a floor, against a wall
/// on its right. With the picture of the tuning, if it tells of one.
#[must_use]
pub fn body_figure(tuning: &TuningFile) -> Figure {
    let title = format!("{}: hitbox, probes and picture", tuning.name);
    let tile = short(tuning.scale.tile);
    let caption = format!("a grid line each tile of {tile} px; standing on a floor, against a wall on the right");
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| draw(sheet, tuning))
}

fn draw(sheet: &mut Sheet<'_>, tuning: &TuningFile) {
    let (tile, body) = (tuning.scale.tile, tuning.tuning.body());
    let tall = tuning.picture.map_or(body.height, |picture| body.height.max(picture.height - picture.down));
    let wide = tuning.picture.map_or(body.width, |picture| body.width.max(picture.width));
    let x = (-(wide + 1.5 * tile), wide.max(tile) * 0.5 + tile);
    let frame = Frame::fit(AREA, x, (-(tall + tile), 0.9 * tile), Vertical::Map, false);
    frame.grid(sheet, tile);
    for solid in [(x, (0.0, 0.9 * tile)), ((0.0, x.1), (-2.0 * tile, 0.0))] {
        if let Some(area) = frame.cut(solid.0, solid.1) {
            sheet.fill_area(&area, SMOKE, 0.5);
        }
    }
    let face = [frame.at(0.0, -2.0 * tile), frame.at(0.0, 0.0), frame.at(x.0, 0.0)];
    sheet.line(&face, stroke(INK, 1.6));
    sheet.line(&[frame.at(0.0, -2.0 * tile), frame.at(x.1, -2.0 * tile)], stroke(INK, 1.6));

    let (left, middle) = (-body.width, -body.width / 2.0);
    let hitbox = ((left, 0.0), (-body.height, 0.0));
    let mut base = LIST.1;
    let size = format!(
        "hitbox {} x {} px, {} x {} tiles",
        short(body.width),
        short(body.height),
        short(body.width / tile),
        short(body.height / tile)
    );
    for (part, opacity) in std::iter::once((Part { colour: COBALT, boxes: vec![hitbox], words: size }, 0.3))
        .chain(parts(tuning).into_iter().map(|part| (part, 0.7)))
    {
        for (across, along) in &part.boxes {
            if let Some(area) = frame.cut(*across, *along) {
                sheet.fill_area(&area, part.colour, opacity);
                sheet.outline(&area, stroke(part.colour, 1.2));
            }
        }
        let sample = Area { left: LIST.0 - 26.0, right: LIST.0 - 10.0, top: base - 10.0, bottom: base + 2.0 };
        sheet.fill_area(&sample, part.colour, opacity);
        sheet.outline(&sample, stroke(part.colour, 1.2));
        sheet.text((LIST.0, base), 13.0, Align::Left, &part.words);
        base += 24.0;
    }
    if let Some(ladder) = tuning.tuning.ladder() {
        let line = stroke(INK, 1.6).dashed(Dash::Dots);
        for x in [middle - ladder.probe, middle + ladder.probe] {
            sheet.line(&[frame.at(x, -body.height), frame.at(x, 0.0)], line);
        }
        sheet.line(&[(LIST.0 - 44.0, base - 4.0), (LIST.0 - 10.0, base - 4.0)], line);
        let words = format!("ladder probe {} px on either side of the feet's middle", short(ladder.probe));
        sheet.text((LIST.0, base), 13.0, Align::Left, &words);
        base += 24.0;
    }
    if let Some(picture) = &tuning.picture {
        let (x, y) = (middle + picture.right, picture.down);
        let line = stroke(PLUM, 2.2).dashed(Dash::Long);
        let (half, top) = (picture.width / 2.0, y - picture.height);
        if let Some(area) = frame.cut((x - half, x + half), (top, y)) {
            sheet.outline(&area, line);
        }
        sheet.line(&[(LIST.0 - 44.0, base - 4.0), (LIST.0 - 10.0, base - 4.0)], line);
        let words = format!("picture {} x {} px", short(picture.width), short(picture.height));
        sheet.text((LIST.0, base), 13.0, Align::Left, &words);
        base += 24.0;
        for note in picture_notes(tuning) {
            sheet.text((LIST.0 + 14.0, base), 12.0, Align::Left, &note);
            base += 20.0;
        }
    }
    let feet = frame.at(middle, 0.0);
    sheet.marker(feet, super::sheet::Marker::Disc, 4.0, INK);
    sheet.outline(&frame.area, stroke(INK, 1.0));
}

/// The probes that the tuning has.
fn parts(tuning: &TuningFile) -> Vec<Part> {
    let (tuning, tile) = (&tuning.tuning, tuning.scale.tile);
    let body = tuning.body();
    let (left, thin) = (-body.width, tile * 0.06);
    let (probe, nudge) = (tuning.wall_probe(), tuning.corner_nudge());
    let (lift, step, follow) = (tuning.ledge_lift(), tuning.step_height(), tuning.ramp_follow());
    let along = (-body.height, 0.0);
    let above = (-body.height - thin, -body.height);
    let beside = |from: f64| (left - from - 2.0 * thin, left - from - thin);
    let mut parts = Vec::new();
    let mut add = |is: bool, colour, boxes: Vec<_>, words: String| {
        if is {
            parts.push(Part { colour, boxes, words });
        }
    };
    let px = short;
    add(
        probe > 0.0,
        TERRACOTTA,
        vec![((left - probe, left), along), ((0.0, probe), along)],
        format!("wall probe {} px: a wall this near is touched", px(probe)),
    );
    add(
        nudge > 0.0,
        OCHRE,
        vec![((left - nudge, left), above), ((0.0, nudge), above)],
        format!("corner nudge {} px: a head stopped by a corner moves aside", px(nudge)),
    );
    add(
        lift > 0.0,
        CELADON,
        vec![(beside(probe), (-lift, 0.0))],
        format!("ledge lift {} px: a fall is lifted onto a ledge", px(lift)),
    );
    add(
        step > 0.0,
        PLUM,
        vec![(beside(probe + 2.0 * thin), (-step, 0.0))],
        format!("step height {} px: walked up and down", px(step)),
    );
    add(
        follow > 0.0,
        INK,
        vec![((-body.width / 2.0 - thin / 2.0, -body.width / 2.0 + thin / 2.0), (0.0, follow))],
        format!("ramp follow {} px: a ramp this far below is followed down", px(follow)),
    );
    parts
}

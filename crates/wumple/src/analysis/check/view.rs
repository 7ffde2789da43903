//! What the camera of a level does not see.

use wumple_core::camera::{Camera, Follow, ViewEvent};
use wumple_core::{DVec2, Hitbox, Side, Surface, Terrain, Tuning, ZoneKind, ZoneOf};

use super::level::zones_of;
use super::{Finding, FindingKind};
use crate::files::{Level, TrialFile, TuningFile};
use crate::trace::Trace;
use crate::units::short;

/// What a camera can never see, whatever is played: by where it starts, which ways it follows, and how far behind it may stay.
pub(super) fn check(level: &Level, tuning: &TuningFile, found: &mut Vec<Finding>) {
    let Ok((world, id)) = level.world(&tuning.tuning) else { return };
    let Some(camera) = level.start_camera(world.character(id)) else { return };
    check_edge(level, tuning, &camera, found);
    let seen = ever_seen(level, &camera);
    let in_sight = world.zones_in(&seen);
    let is_wanted = |kind| matches!(kind, ZoneKind::Pickup | ZoneKind::Checkpoint | ZoneKind::Goal);
    // A platform may come into view with what is on it.
    let stays = |of| !matches!(of, ZoneOf::Platform(_));
    let zones = zones_of(level);
    for zone in zones.iter().filter(|zone| is_wanted(zone.kind) && stays(zone.of) && !in_sight.contains(zone)) {
        let words = [
            format!("{} never comes into view: {}", level.names.zone(*zone), range_words(level, &camera, &seen)),
            "nobody sees it".to_owned(),
            "a larger view, one that follows that way, or the thing elsewhere".to_owned(),
        ];
        found.push(Finding::new(FindingKind::OutOfView, level.places().zone(zone.of), words));
    }
    let places = standing_places(level, &tuning.tuning);
    let unseen: Vec<(i32, i32)> = places.filter(|(_, place)| !seen.overlaps(place)).map(|(tile, _)| tile).collect();
    if let [(column, row), ..] = unseen[..] {
        let words = [
            format!(
                "who stands on tile {column},{row} is out of view{}: {}",
                if unseen.len() > 1 { format!(", as on {} more", unseen.len() - 1) } else { String::new() },
                range_words(level, &camera, &seen)
            ),
            "whoever comes there is played blind".to_owned(),
            "a larger view, or one that follows that way".to_owned(),
        ];
        found.push(Finding::new(FindingKind::OutOfView, level.places().camera(), words));
    }
}

/// At the edge of the still box, looking ahead as far as ever, a part of the hitbox is beyond the view.
fn check_edge(level: &Level, tuning: &TuningFile, camera: &Camera, found: &mut Vec<Finding>) {
    let (numbers, body) = (camera.numbers(), tuning.tuning.body());
    let ahead_up = if tuning.tuning.four_way().is_some() { numbers.ahead } else { 0.0 };
    let follows = |side: Side, other: Side| [side, other].into_iter().any(|side| numbers.follow.moves_towards(side));
    let axes = [
        ("sideways", follows(Side::Left, Side::Right), numbers.still.x, numbers.ahead, body.width, numbers.view.x),
        ("up and down", follows(Side::Top, Side::Bottom), numbers.still.y, ahead_up, body.height, numbers.view.y),
    ];
    for (way, is_followed, still, ahead, size, view) in axes {
        let over = still * 0.5 + ahead + size * 0.5 - view * 0.5;
        if !is_followed || over <= 0.0 {
            continue;
        }
        let looks = if ahead > 0.0 { format!(", and looks {} px ahead", short(ahead)) } else { String::new() };
        let words = [
            format!(
                "{way} the still box is {} px of {}{looks}: the hitbox ({} px) comes {} px beyond the view's edge",
                short(still),
                short(view),
                short(size),
                short(over.min(size))
            ),
            "who is played is not wholly seen, though the view follows".to_owned(),
            "a smaller still box, less ahead, or a larger view".to_owned(),
        ];
        found.push(Finding::new(FindingKind::OutOfView, level.places().camera(), words));
    }
}

/// All that a view can come to show. Ways that it follows are open far beyond the level.
fn ever_seen(level: &Level, camera: &Camera) -> Hitbox {
    let start = camera.view();
    let far = camera.numbers().view.max_element() + level.grid.width() + level.grid.height();
    let beyond = |side| if camera.numbers().follow.moves_towards(side) { far } else { 0.0 };
    Hitbox {
        left: start.left - beyond(Side::Left),
        right: start.right + beyond(Side::Right),
        top: start.top - beyond(Side::Top),
        bottom: start.bottom + beyond(Side::Bottom),
    }
}

/// Where the view stays, in words.
fn range_words(level: &Level, camera: &Camera, seen: &Hitbox) -> String {
    let (width, height) = (level.grid.width(), level.grid.height());
    let ends = [
        ("left of", seen.left, seen.left > 0.0),
        ("right of", seen.right, seen.right < width),
        ("above", seen.top, seen.top > 0.0),
        ("below", seen.bottom, seen.bottom < height),
    ];
    let nothing: Vec<String> =
        ends.into_iter().filter(|end| end.2).map(|(side, at, _)| format!("{side} {} px", short(at))).collect();
    let follow = Follow::NAMES.iter().find(|(_, follow)| *follow == camera.numbers().follow);
    let follow = follow.map_or("", |(word, _)| word);
    format!("the view, which follows \"{follow}\", shows nothing {}", nothing.join(" or "))
}

/// The tiles on which somebody can stand, each with the hitbox there. Seen from above, that is every tile that is not solid.
fn standing_places<'a>(level: &'a Level, tuning: &'a Tuning) -> impl Iterator<Item = ((i32, i32), Hitbox)> + 'a {
    let (grid, lines) = (&level.grid, level.grid.grid_lines());
    let from_above = tuning.four_way().is_some();
    let holds = move |column: i32, row: i32| {
        if from_above {
            return !grid.is_solid(column, row);
        }
        let is_free = row > 0 && !grid.is_solid(column, row - 1);
        is_free && matches!(grid.surface(column, row), Surface::Solid | Surface::OneWay | Surface::Ramp { .. })
    };
    let tiles = (0..grid.rows()).flat_map(|row| (0..grid.columns()).map(move |column| (column, row)));
    tiles.filter(move |(column, row)| holds(*column, *row)).map(move |(column, row)| {
        let cell = lines.cell(column, row);
        let feet = DVec2::new((cell.left + cell.right) * 0.5, if from_above { cell.bottom } else { cell.top });
        ((column, row), tuning.body().hitbox_at(feet))
    })
}

/// Who leaves the view in a run: not while a defeat is shown, and not where that is deadly, which is meant.
pub(super) fn check_run(trial: &TrialFile, trace: &Trace, found: &mut Vec<Finding>) {
    let Some(camera) = trial.level.camera else { return };
    let meant = camera.follow.behind().filter(|_| camera.deadly_behind);
    let mut left =
        trace.views.iter().enumerate().flat_map(|(tick, view)| view.events.iter().map(move |event| (tick, event)));
    let left = left.find_map(|(tick, event)| match event {
        ViewEvent::Left(side) if Some(*side) != meant && !trace.harm.get(tick).is_some_and(|harm| harm.defeated) => {
            Some((tick, *side))
        }
        _ => None,
    });
    if let Some((tick, side)) = left {
        let words = [
            format!("in tick {tick} the character leaves the view at the {side}"),
            "who is played is not seen".to_owned(),
            "a larger view, one that follows that way, or an edge of the level where the view ends".to_owned(),
        ];
        found.push(Finding::new(FindingKind::OutOfView, trial.place.clone(), words));
    }
}

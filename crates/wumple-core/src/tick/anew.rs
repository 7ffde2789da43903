//! A world that is gone back to after a defeat, and how a defeat is shown.

use glam::DVec2;

use super::between::on_body;
use super::{CharacterId, Saved, World};
use crate::platforms::MoverId;
use crate::space::Hitbox;
use crate::terrain::{DrawnZone, LIMIT_MARGIN, Terrain, ZoneId, ZoneKind, ZoneOf};

/// The state of a world that is gone back to: what happened in its last tick is not told again then, but that somebody is crushed.
pub(crate) fn save_to_go_back<T: Terrain>(world: &World<T>, saved: &mut Saved, taken_away: &[ZoneId]) {
    world.save_into(saved);
    saved.forget_events();
    for zone in taken_away {
        saved.away.add(*zone);
    }
}

/// Makes a world again what it was, without what was taken since and stays taken. What a character holds by now is no press.
pub(crate) fn go_back<T: Terrain>(
    world: &mut World<T>,
    saved: &Saved,
    id: CharacterId,
    stays_away: impl Iterator<Item = ZoneId>,
) {
    world.restore(saved);
    for zone in stays_away {
        world.things().take_away(zone);
    }
    world.bodies.get_mut(id.into()).outside.comes_back();
}

/// Puts a character at rest on what is beneath it; at a checkpoint's middle if there is nothing, or what hurts; and where it is if
/// neither can be.
pub(crate) fn rest_below<T: Terrain>(world: &mut World<T>, id: CharacterId, checkpoint: ZoneId) {
    let character = world.character(id);
    let feet = character.report().feet;
    let place = place_of(world, &character.hitbox().grown(2.0 * LIMIT_MARGIN), checkpoint);
    let starts = core::iter::once(feet).chain(place.into_iter().flat_map(starts_at));
    let rest = starts.filter_map(|start| ground_below(world, id, start)).next().unwrap_or(feet);
    // Where it was it fits, unless it was crushed there; then it goes on from where it is.
    put_at(world, id, rest);
}

/// Puts a character at rest at a checkpoint, wherever that is, if it can be. Says whether it could.
pub(crate) fn rest_at<T: Terrain>(world: &mut World<T>, id: CharacterId, checkpoint: ZoneId) -> bool {
    let terrain = &world.terrain;
    let whole = Hitbox {
        left: terrain.left() - LIMIT_MARGIN,
        right: terrain.width() + LIMIT_MARGIN,
        top: terrain.top() - LIMIT_MARGIN,
        bottom: terrain.height() + LIMIT_MARGIN,
    };
    let starts = place_of(world, &whole, checkpoint).into_iter().flat_map(starts_at);
    let rest = starts.filter_map(|start| ground_below(world, id, start)).next();
    rest.is_some_and(|rest| put_at(world, id, rest))
}

/// Where feet may begin that come to rest at a place: in its middle, or upon it.
fn starts_at(place: Hitbox) -> [DVec2; 2] {
    let middle = (place.left + place.right) * 0.5;
    [DVec2::new(middle, place.bottom), DVec2::new(middle, place.top)]
}

fn put_at<T: Terrain>(world: &mut World<T>, id: CharacterId, feet: DVec2) -> bool {
    let body = world.bodies.get(id.into());
    let as_met = (body.meets_as(), body.is_seen_from_above());
    let put = on_body(world, id.into(), as_met, |body, scene, tick| body.put_at(scene, feet, tick)).is_ok();
    if put {
        // Where it was crushed it no longer is.
        world.bodies.get_mut(id.into()).report.events.clear();
    }
    put
}

/// Where a character would come to rest that falls from a place, if it fits there and nothing hurts below.
fn ground_below<T: Terrain>(world: &World<T>, id: CharacterId, start: DVec2) -> Option<DVec2> {
    let tuning = world.character(id).tuning();
    let probe = world.probe(tuning);
    if !probe.fits(start) {
        return None;
    }
    // Seen from above, nobody falls.
    let feet = if tuning.four_way().is_some() {
        start
    } else {
        let deepest = world.terrain.height().max(start.y);
        let met = probe.first_met_y(start, deepest + tuning.body().height);
        met.piece?;
        met.feet
    };
    let hitbox = tuning.body().hitbox_at(feet);
    let hurts = world.zones_in(&hitbox).iter().any(|zone| zone.kind == ZoneKind::Hazard);
    (!hurts).then_some(feet)
}

/// Where a zone is, or what it is of: one of the terrain is looked for in an area.
fn place_of<T: Terrain>(world: &World<T>, area: &Hitbox, zone: ZoneId) -> Option<Hitbox> {
    let (terrain, platforms) = (&world.terrain, &world.platforms);
    match zone.of {
        ZoneOf::Tile { column, row } => terrain.has_tile(column, row).then(|| terrain.grid_lines().cell(column, row)),
        ZoneOf::Platform(platform) => {
            platforms.numbers().any(|number| number == platform).then(|| world.platform_report(platform).place)
        }
        ZoneOf::Prop(prop) => {
            let mut props = world.props().map(MoverId::from);
            props.find(|id| *id == MoverId::Prop(prop)).map(|id| world.place_of(id))
        }
        of => {
            let mut found = None;
            terrain.zones_near(area, &mut |other, DrawnZone { place, .. }| {
                found = found.or((other == of).then_some(*place));
            });
            found
        }
    }
}

/// A character that was defeated falls, and holds on to nothing; if so asked, through everything.
pub(crate) fn let_fall<T: Terrain>(world: &mut World<T>, id: CharacterId, through: bool) {
    world.set_control(id, false);
    let body = world.bodies.get_mut(id.into());
    body.let_go_of_everything();
    if through {
        body.outside.pass_through();
        world.presence.set_any_differs(true);
        world.bodies.forget_around(id.into());
    }
    world.bodies.show_characters(&mut world.platforms, &world.presence.meetings);
}

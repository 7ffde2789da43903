//! Rooms as they are built, and what a player would say of every tick in them.

use crate::rooms::player::Watch;
use crate::rooms::{aligned, buttons, cases, places};
use proptest::prelude::*;
use wumple_core::{Buttons, CharacterId, DVec2, Grid, PlatformNumbers, Platforms, Terrain, Tuning, World};

/// On a whole pixel, where the body fits.
fn start<'a>(
    grid: &'a Grid,
    tuning: &Tuning,
    platforms: &[PlatformNumbers],
    seed: u32,
) -> Option<(World<&'a Grid>, CharacterId)> {
    places(grid.width(), grid.height(), seed).find_map(|feet| {
        let platforms = Platforms::new(platforms, tuning.rate()).ok()?;
        let mut world = World::with_platforms(grid, platforms);
        let id = world.add_character(tuning.clone(), DVec2::new(feet.x.round(), feet.y.round())).ok()?;
        Some((world, id))
    })
}

/// The script, and at its end one direction, or nothing, for long.
fn held(script: &[(Buttons, usize)], seed: u32) -> impl Iterator<Item = Buttons> {
    let last = Buttons { left: seed % 4 == 1, right: seed % 4 == 2, down: seed % 4 == 3, ..Buttons::NONE };
    let script = script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks));
    script.chain(core::iter::repeat_n(last, 40))
}

/// Plays the script among these platforms; what a player would find wrong.
fn watched(
    grid: &Grid,
    tuning: &Tuning,
    platforms: &[PlatformNumbers],
    script: &[(Buttons, usize)],
    seed: u32,
) -> Result<(), String> {
    let Some((mut world, id)) = start(grid, tuning, platforms, seed) else { return Ok(()) };
    let mut watch = Watch::new(grid, platforms.is_empty(), tuning, world.report(id));
    for held in held(script, seed) {
        world.tick(&[held]);
        if let Some(violation) = world.violation() {
            return Err(violation.to_string());
        }
        watch.look(held, world.report(id))?;
        if world.character(id).has_ended() {
            break;
        }
    }
    Ok(())
}

proptest! {
    // Half a million ticks each.
    #![proptest_config(cases(3000))]

    #[test]
    fn nobody_is_stuck_flickers_or_is_left_untold(
        grid in aligned::grid(), tuning in aligned::tuning(), script in buttons(), seed in any::<u32>(),
    ) {
        prop_assert_eq!(watched(&grid, &tuning, &[], &script, seed), Ok(()));
    }

    #[test]
    fn nor_among_platforms(
        grid in aligned::grid(), tuning in aligned::tuning(), script in buttons(), seed in any::<u32>(),
        platforms in prop::collection::vec(aligned::platform(), 1..5),
    ) {
        prop_assert_eq!(watched(&grid, &tuning, &platforms, &script, seed), Ok(()));
    }
}

//! What a tick costs. `cargo bench --package wumple-core --bench tick`
//!
//! CPU time of this thread; each of eight scripts begins where the case begins, and the least of several rounds of each
//! counts, since what the machine does meanwhile is not the tick's. What is told is the mean over the scripts.
//!
//! `--count TUNING LEVEL` makes every script once and nothing else, for a count of instructions (`.ci/instructions`).

mod by_hand;
mod common;
mod scenes {
    use wumple_core as w;
    include!("../speed_scenes.rs");
}

use std::hint::black_box;

use by_hand::Bare;
use common::{SIDE, TICKS, map, script_of};
use cpu_time::ThreadTime;
use scenes::{Case, SCRIPTS, case, measured_ticks};
use wumple_core::{Buttons, Grid, World};

const ROUNDS: usize = 5;

/// The mean over the scripts of the least time that each takes, ns a tick.
fn nanoseconds(mut run: impl FnMut(usize)) -> f64 {
    let mut least = [f64::INFINITY; SCRIPTS as usize];
    for _ in 0..ROUNDS {
        for (script, least) in least.iter_mut().enumerate() {
            let began = ThreadTime::now();
            run(script);
            *least = least.min(began.elapsed().as_secs_f64() * 1e9 / TICKS as f64);
        }
    }
    least.iter().sum::<f64>() / least.len() as f64
}

/// A case's time a tick, ns.
fn measure(tuned: &str, level: &str, side: usize) -> f64 {
    let case = case(tuned, level, side);
    let (mut world, _) = case.world();
    let saved = world.save();
    case.scripts.iter().for_each(|script| {
        world.restore(&saved);
        measured_ticks(&mut world, script);
        assert!(world.violation().is_none() && world.ticks() == TICKS as u64);
    });
    nanoseconds(|script| {
        world.restore(&saved);
        measured_ticks(&mut world, &case.scripts[script]);
    })
}

fn by_hand(side: usize) -> f64 {
    let (tiles, scripts) = (map(side), (0..SCRIPTS).map(script_of).collect::<Vec<_>>());
    nanoseconds(|script| {
        let mut bare = Bare::new(&tiles, side);
        scripts[script].iter().for_each(|held| bare.tick(black_box(held)));
        black_box(&bare);
    })
}

/// More characters at the start.
fn add_more(world: &mut World<&Grid>, case: &Case, count: usize) {
    for _ in 0..count {
        world.add_character(case.tuning.clone(), case.start).unwrap();
    }
}

/// How many times as long a hundred characters among platforms take as one.
fn crowd() -> f64 {
    let case = case("plain", "among", SIDE);
    let time = |count: usize| {
        let (mut world, _) = case.world();
        add_more(&mut world, &case, count - 1);
        let saved = world.save();
        let held: Vec<Vec<Vec<Buttons>>> =
            case.scripts.iter().map(|script| script.iter().map(|held| vec![*held; count]).collect()).collect();
        nanoseconds(|script| {
            world.restore(&saved);
            held[script].iter().for_each(|held| world.tick(black_box(held)));
        })
    };
    time(100) / time(1)
}

/// Going back over a network: a state is saved, restored, and eight ticks are made again.
fn going_back() {
    let case = case("plain", "plain", SIDE);
    let ((mut world, _), script) = (case.world(), &case.scripts[0]);
    add_more(&mut world, &case, 1);
    let held: Vec<[Buttons; 2]> = script.iter().map(|held| [*held, *held]).collect();
    held[..600].iter().for_each(|held| world.tick(held));
    let mut saved = world.save();
    println!("a saved state of two characters: {} bytes", saved.size_in_bytes());
    let each = |time: f64| time * TICKS as f64 / 1000.0;
    let save = nanoseconds(|_| (0..1000).for_each(|_| world.save_into(black_box(&mut saved))));
    let hash = nanoseconds(|_| (0..1000).for_each(|_| assert_ne!(black_box(&saved).hash(), 0)));
    let restore = nanoseconds(|_| (0..1000).for_each(|_| world.restore(black_box(&saved))));
    let again = nanoseconds(|_| {
        (0..1000).for_each(|_| {
            world.restore(&saved);
            held[600..608].iter().for_each(|held| world.tick(black_box(held)));
        });
    });
    println!("its hash {:.0} ns; {} bytes to send", each(hash), saved.to_bytes(&world).len());
    println!(
        "save into it {:.0} ns, restore {:.0} ns, restore and eight ticks of both {:.0} ns",
        each(save),
        each(restore),
        each(again)
    );
}

fn main() {
    let words: Vec<String> = std::env::args().skip(1).collect();
    if let Some(at) = words.iter().position(|word| word == "--count") {
        let case = case(&words[at + 1], &words[at + 2], SIDE);
        for script in &case.scripts {
            measured_ticks(&mut case.world().0, script);
        }
        println!("{} ticks", case.scripts.len() * TICKS);
        return;
    }
    println!("{:>8} {:>10} {:>10} {:>10}   tiles a side", "", "bare loop", "plain jump", "every extra");
    for side in [100, 1000, 10_000] {
        let (bare, plain, every) = (by_hand(side), measure("plain", "plain", side), measure("every", "plain", side));
        println!("{:>8} {bare:>7.1} ns {plain:>7.1} ns {every:>7.1} ns   {side}", "");
    }
    println!();
    for (tuned, level) in [
        ("all", "plain"),
        ("all", "rooms"),
        ("all", "mixed"),
        ("all", "objects"),
        ("plain", "plain"),
        ("plain", "away"),
        ("plain", "among"),
        ("all", "among"),
    ] {
        println!("{tuned:>8} {level:>10} {:>7.1} ns", measure(tuned, level, SIDE));
    }
    println!("a hundred characters among platforms cost {:.1} times one", crowd());
    going_back();
}

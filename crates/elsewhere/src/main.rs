//! Long runs of the core, a hash in each line: on this machine, in WebAssembly, and on one without an operating
//! system. `.ci/elsewhere` holds the three against each other.

#![cfg_attr(any(target_os = "none", target_arch = "wasm32"), no_std, no_main)]

#[cfg(target_os = "none")]
mod bare;
#[expect(dead_code, reason = "the tests of the core ask them for more")]
#[path = "../../wumple-core/tests/long_runs/mod.rs"]
mod long_runs;
#[cfg(any(target_os = "none", target_arch = "wasm32"))]
mod memory;
#[cfg(target_arch = "wasm32")]
mod wasm;

use wumple_core::numbers::Scheme;

/// How long they are, ticks.
const TICKS: u32 = 5000;
const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];
/// How many runs there are.
const RUNS: u32 = 12;

/// The hash of one of the runs: each kind in each scheme.
fn hash(run: u32) -> u64 {
    let scheme = SCHEMES[(run % 3) as usize];
    match run / 3 {
        0 => long_runs::run(scheme, TICKS),
        1 => long_runs::climb(scheme, false, TICKS).hash,
        2 => long_runs::climb(scheme, true, TICKS).hash,
        _ => long_runs::crowd(scheme, TICKS).hash,
    }
}

#[cfg(not(any(target_os = "none", target_arch = "wasm32")))]
fn main() {
    for run in 0..RUNS {
        println!("{run} {:016x}", hash(run));
    }
}

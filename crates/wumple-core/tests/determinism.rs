//! Long runs, pinned to the bit. In debug and in release, they must come to the same hashes.

mod long_runs;

use wumple_core::numbers::Scheme;

/// How long they are, ticks.
const TICKS: u32 = 50_000;

fn hash_of_a_long_climb(scheme: Scheme, with_platforms: bool) -> u64 {
    let climb = long_runs::climb(scheme, with_platforms, TICKS);
    assert!(climb.states.len() == 7 || with_platforms, "{:?}", climb.states);
    assert_eq!(with_platforms, climb.rides > 300, "{}", climb.rides);
    climb.hash
}

fn hash_of_a_long_crowd(scheme: Scheme) -> u64 {
    let crowd = long_runs::crowd(scheme, 20_000);
    assert!(crowd.carried > 1000, "{}", crowd.carried);
    crowd.hash
}

#[test]
fn a_long_crowd_comes_to_the_pinned_bits() {
    let pinned = [
        (Scheme::Exact, "c4ae0e009705b89b"),
        (Scheme::VelocityFirst, "ea7062d6def24af8"),
        (Scheme::PositionFirst, "b264dc8347e64a34"),
    ];
    let hashes = pinned.map(|(scheme, _)| format!("{:016x}", hash_of_a_long_crowd(scheme)));
    assert_eq!(hashes, pinned.map(|(_, hash)| hash));
}

#[test]
fn a_long_ride_comes_to_the_pinned_bits() {
    let pinned = [
        (Scheme::Exact, "e61e646da8a79699"),
        (Scheme::VelocityFirst, "9b8395d43f30ba60"),
        (Scheme::PositionFirst, "b1e439facbd8c3ac"),
    ];
    let hashes = pinned.map(|(scheme, _)| format!("{:016x}", hash_of_a_long_climb(scheme, true)));
    assert_eq!(hashes, pinned.map(|(_, hash)| hash));
}

#[test]
fn a_long_climb_comes_to_the_pinned_bits() {
    let pinned = [
        (Scheme::Exact, "320c4877105cd64a"),
        (Scheme::VelocityFirst, "7e871a54a80dfd1c"),
        (Scheme::PositionFirst, "22b9cb6de0ddb632"),
    ];
    let hashes = pinned.map(|(scheme, _)| format!("{:016x}", hash_of_a_long_climb(scheme, false)));
    assert_eq!(hashes, pinned.map(|(_, hash)| hash));
}

#[test]
fn a_long_run_comes_to_the_pinned_bits_on_two_threads_at_once() {
    let pinned = [
        (Scheme::Exact, "4046fe8094c7ab86"),
        (Scheme::VelocityFirst, "15653c2e7cd70b90"),
        (Scheme::PositionFirst, "f0f3ed950ba8c79a"),
    ];
    let hashes = pinned.map(|(scheme, _)| {
        let (one, two) = std::thread::scope(|scope| {
            let run = move || long_runs::run(scheme, TICKS);
            let (one, two) = (scope.spawn(run), scope.spawn(run));
            (one.join().unwrap(), two.join().unwrap())
        });
        assert_eq!(one, two);
        format!("{one:016x}")
    });
    assert_eq!(hashes, pinned.map(|(_, hash)| hash));
}

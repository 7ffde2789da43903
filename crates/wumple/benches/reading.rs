//! Reading and telling of more and more: the time for each thing must hardly grow with their number.
//! `cargo bench --package wumple --bench reading`

use std::fmt::Write as _;
use std::hint::black_box;
use std::time::Instant;

use wumple::advanced::Names;
use wumple::units::Scale;
use wumple::why::WhyLog;
use wumple::{ButtonsFile, Level, Trace, TuningFile, demo};

const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };
const ROOM: &str = "[map]\nrows = '''\n..........\n.@........\n##########\n'''\n";
/// Each is measured so often, and the least time counts.
const TIMES: usize = 3;

/// Platforms, each with an id of its own.
fn platforms(count: usize) -> impl Fn() {
    let mut text = String::from(ROOM);
    for n in 0..count {
        let _ = write!(text, "[[platform]]\nid = \"p-{n}\"\nsize = [8, 8]\nroute = [[{n}, -200]]\n");
    }
    move || assert_eq!(Level::parse("l", &text).expect("it is right").platforms.len(), count)
}

/// Faults, each in a line of its own.
fn faults(count: usize) -> impl Fn() {
    let text = "5 jmup\n".repeat(count);
    move || {
        assert_eq!(
            ButtonsFile::parse("b", &text, &SCALE).expect_err("it is wrong").render(false).matches("jmup\n").count(),
            21,
            "twenty, and one more for the rest"
        )
    }
}

/// Lines that fall on ticks in pairs.
fn joined(count: usize) -> impl Fn() {
    let lines: String = (0..count).map(|n| format!("{} {}\n", n + 1, ["-", "jump"][n % 2])).collect();
    let file = ButtonsFile::parse("b", &format!("rate 120\n{lines}"), &SCALE).expect("it is right");
    move || assert_eq!(file.at_rate(60.0).expect("in order").1.len(), 21)
}

/// Rows of a trace, each on a platform of another name.
fn names(count: usize) -> impl Fn() {
    let mut text = String::from("tick,time_s,x_px,y_px,vx_px_s,vy_px_s,state,facing,support,contacts,events\n");
    for tick in 0..count {
        let _ = writeln!(text, "{tick},{},0,0,0,0,stand,right,platform:p-{tick},below,", tick as f64 / 60.0);
    }
    move || {
        assert_eq!(Trace::parse("t.csv", &text, &Names::default()).expect("it is right").names.platforms.len(), count)
    }
}

/// Ticks of a run, with a decision in every other.
fn decisions(count: usize) -> impl Fn() {
    let level = Level::parse("l", ROOM).expect("it is right");
    let dab = TuningFile::parse("dab", demo::DAB).expect("it is right");
    let lines: String = (0..count / 2).map(|n| format!("{} jump\n{} -\n", 2 * n + 1, 2 * n + 2)).collect();
    let timeline = ButtonsFile::parse("b", &lines, &SCALE).expect("it is right").at_rate(60.0).expect("in order").0;
    move || {
        let mut log = WhyLog::default();
        let trace = wumple::run_told(&level, &dab.tuning, &timeline, count as u64, &mut log).expect("it fits");
        assert!(trace.rows.len() == count + 1 && log.lines().len() > count / 20);
        black_box((trace.to_csv(), log.to_csv()));
    }
}

fn least_ns(of: &dyn Fn()) -> f64 {
    let time = |_| {
        let began = Instant::now();
        of();
        began.elapsed().as_nanos() as f64
    };
    (0..TIMES).map(time).fold(f64::INFINITY, f64::min)
}

fn main() {
    type Work = (&'static str, fn(usize) -> Box<dyn Fn()>);
    let works: [Work; 5] = [
        ("platforms with ids", |count| Box::new(platforms(count))),
        ("faults told", |count| Box::new(faults(count))),
        ("lines joined", |count| Box::new(joined(count))),
        ("names in a trace", |count| Box::new(names(count))),
        ("ticks with decisions", |count| Box::new(decisions(count))),
    ];
    println!("{:22} {:>12} {:>12} {:>12}   ns for each, of so many", "", 1_000, 10_000, 100_000);
    for (what, work) in works {
        let each = [1_000, 10_000, 100_000].map(|count| least_ns(&work(count)) / count as f64);
        println!("{what:22} {:12.0} {:12.0} {:12.0}", each[0], each[1], each[2]);
    }
}

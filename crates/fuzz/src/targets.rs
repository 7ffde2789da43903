//! What is fed, and what must hold of it.

use std::fs;
use std::path::Path;
use std::sync::LazyLock;

use wumple::advanced::Names;
use wumple::analysis::{
    GameLoop, RoundSummary, Target as Conversion, UnitStyle, check_level, convert, fit_into, match_recording,
};
use wumple::files::{Recording, RecordingUnits};
use wumple::numbers::Scheme;
use wumple::units::{Quantity, Scale};
use wumple::why::run_why;
use wumple::{ButtonsFile, Level, Terrain, Timeline, Trace, TrialFile, TuningFile, Wishes, arcs, demo};

/// Something that takes input.
pub(crate) struct Target {
    pub(crate) name: &'static str,
    /// The folder of the corpus that it begins with.
    pub(crate) corpus: &'static str,
    /// How many bytes were said of the input; or what is wrong.
    pub(crate) run: fn(&[u8]) -> Result<usize, String>,
}

pub(crate) const TARGETS: [Target; 11] = [
    Target { name: "tuning", corpus: "tuning", run: tuning },
    Target { name: "write", corpus: "tuning", run: write },
    Target { name: "level", corpus: "level", run: level },
    Target { name: "csv", corpus: "csv", run: csv },
    Target { name: "png", corpus: "png", run: png },
    Target { name: "buttons", corpus: "buttons", run: buttons },
    Target { name: "trial", corpus: "trial", run: trial },
    Target { name: "trace", corpus: "trace", run: trace },
    Target { name: "recording", corpus: "recording", run: recording },
    Target { name: "quantity", corpus: "quantity", run: quantity },
    Target { name: "tick", corpus: "tuning", run: tick },
];

const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };

fn text(input: &[u8]) -> String {
    String::from_utf8_lossy(input).into_owned()
}

/// What was said of it: nothing if it was right. What a terminal obeys is never said.
fn said<T>(read: &Result<T, wumple::Diagnostics>) -> Result<usize, String> {
    let Err(wrong) = read else { return Ok(0) };
    let (line, full) = (wrong.to_string(), wrong.render(true));
    if line.chars().any(|letter| letter.is_control() && letter != '\n') {
        return Err(String::from("says a control character"));
    }
    Ok(line.len() + full.len())
}

fn tuning(input: &[u8]) -> Result<usize, String> {
    let read = TuningFile::parse("f.tuning.toml", &text(input));
    said(&read)
}

/// What is written into a right tuning is a right tuning, and does what it says.
fn write(input: &[u8]) -> Result<usize, String> {
    let text = text(input);
    let Ok(file) = TuningFile::parse("f.tuning.toml", &text) else { return Ok(0) };
    if file.tuning.rate() > 300.0 {
        return Ok(0);
    }
    let wishes = Wishes {
        height: Some(Quantity::bare(50.0)),
        gap: Some(Quantity::bare(80.0)),
        top_speed: Some(Quantity::bare(110.0)),
        ..Wishes::default()
    };
    if let Ok(found) = fit_into(&wishes, "f.tuning.toml", &text) {
        let measured = arcs([&TuningFile::parse("f", found.tuning_text()).map_err(|wrong| wrong.to_string())?]);
        let kind = found.predicted.kind;
        let again = measured.tunings[0].arc(kind).ok_or("the arc that was foretold is not there")?;
        if *again != found.predicted {
            return Err(String::from("another arc than was foretold"));
        }
    }
    let target = Conversion { rate: Some(50.0), units: Some(UnitStyle::Frames), ..Conversion::default() };
    if let Ok(done) = convert("f.tuning.toml", &text, &target) {
        TuningFile::parse("f", &done.text).map_err(|wrong| wrong.to_string())?;
    }
    Ok(0)
}

/// Whatever a recording says, something is found in it or it is said why not.
fn recording(input: &[u8]) -> Result<usize, String> {
    let read = Recording::parse("f.csv", &text(input), &RecordingUnits::new(60.0, &SCALE));
    let length = said(&read)?;
    let Ok(recording) = read else { return Ok(length) };
    if recording.rows.len() > 400 {
        return Ok(length);
    }
    if let Ok(report) = match_recording(&recording, &GameLoop { rate: 60.0, scheme: Scheme::Exact, scale: SCALE }) {
        if report.numbers.iter().any(|number| !number.value.is_finite()) {
            return Err(String::from("finds what is no number"));
        }
        TuningFile::parse("f", &report.tuning_text()).map_err(|wrong| wrong.to_string())?;
    }
    Ok(length)
}

fn level(input: &[u8]) -> Result<usize, String> {
    let read = Level::parse("f.level.toml", &text(input));
    let length = said(&read)?;
    if let Ok(level) = read {
        let warned: usize = level.warnings().iter().map(|warning| warning.to_string().len()).sum();
        return Ok(length + warned + played(&level, input)?);
    }
    Ok(length)
}

/// A level that is right, looked at and played with its round: what is written of that reads back.
fn played(level: &Level, input: &[u8]) -> Result<usize, String> {
    static DAB: LazyLock<TuningFile> =
        LazyLock::new(|| TuningFile::parse("dab", demo::CLIMBING_DAB).expect("the demo is right"));
    // What is looked for is no more in a larger map.
    if level.grid.columns() > 300 || level.grid.rows() > 300 || level.grid.grid_lines().spacing() < 4.0 {
        return Ok(0);
    }
    let found: usize = check_level(level, Some(&DAB)).iter().map(|finding| finding.to_string().len()).sum();
    let Ok((trace, log)) = run_why(level, &DAB.tuning, &timeline_of(input), 200) else { return Ok(found) };
    let written = trace.to_csv();
    let again = Trace::parse("again.csv", &written, &level.names).map_err(|wrong| wrong.to_string())?;
    if again.to_csv() != written {
        return Err(String::from("does not read back"));
    }
    let summary = level.round.as_ref().map_or(0, |round| RoundSummary::of(&trace, round).to_string().len());
    // The words of what happened are as long as they are, however short the file.
    let _ = (found + summary, log.lines().len());
    Ok(0)
}

/// A level whose map is in a file beside it.
fn with_map(name: &str, map: &str, contents: &[u8]) -> Result<usize, String> {
    static FOLDER: LazyLock<tempfile::TempDir> = LazyLock::new(|| tempfile::tempdir().expect("a folder for maps"));
    let path = FOLDER.path().join(name);
    fs::write(&path, contents).map_err(|error| error.to_string())?;
    let level = FOLDER.path().join("f.level.toml");
    said(&Level::parse(&level.display().to_string(), map))
}

fn csv(input: &[u8]) -> Result<usize, String> {
    with_map("m.csv", "[map]\ncsv = \"m.csv\"\ncodes = { 0 = \".\", 1 = \"#\", 9 = \"@\" }\n", input)
}

fn png(input: &[u8]) -> Result<usize, String> {
    let map = "[map]\npng = \"m.png\"\ncolours = { \"#222222\" = \"#\", \"#ffffff\" = \".\", \"#ff0000\" = \"@\" }\n";
    with_map("m.png", map, input)
}

/// What is read at a rate is read back from what is written of it.
fn buttons(input: &[u8]) -> Result<usize, String> {
    let read = ButtonsFile::parse("f.buttons", &text(input), &SCALE);
    let mut length = said(&read)?;
    let Ok(file) = read else { return Ok(length) };
    for rate in [1.0, 60.0, 144.0] {
        let at_rate = file.at_rate(rate);
        length += said(&at_rate)?;
        let Ok((timeline, warnings)) = at_rate else { continue };
        length += warnings.iter().map(|warning| warning.to_string().len()).sum::<usize>();
        let written =
            ButtonsFile::parse("again", &timeline.to_text(rate), &SCALE).map_err(|wrong| wrong.to_string())?;
        let again = written.at_rate(rate).map_err(|wrong| wrong.to_string())?.0;
        if again != timeline {
            return Err(String::from("does not read back"));
        }
    }
    Ok(length)
}

fn trial(input: &[u8]) -> Result<usize, String> {
    // Found from the folder of the demo.
    let name = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/f.trial.toml");
    let read = TrialFile::parse(&name.display().to_string(), &text(input));
    let length = said(&read)?;
    if let Ok(trial) = read
        && trial.ticks < 20_000
        && let Ok(outcome) = trial.run()
    {
        return Ok(length + outcome.to_string().len());
    }
    Ok(length)
}

/// What is read is written so that it reads back to the same.
fn trace(input: &[u8]) -> Result<usize, String> {
    let text = text(input);
    let name = if text.starts_with('{') { "f.jsonl" } else { "f.csv" };
    let read = Trace::parse(name, &text, &Names::default());
    let length = said(&read)?;
    if let Ok(trace) = read {
        let written = trace.to_csv();
        let again = Trace::parse("again.csv", &written, &Names::default()).map_err(|wrong| wrong.to_string())?;
        if again.to_csv() != written {
            return Err(String::from("does not read back"));
        }
    }
    Ok(length)
}

fn quantity(input: &[u8]) -> Result<usize, String> {
    Ok(Quantity::parse(&text(input)).map_or_else(|wrong| wrong.to_string().len(), |_| 0))
}

/// A character of a spoiled tuning in the rooms of the demo, with buttons from the same bytes: after every tick the
/// world must be as it must be, and a restored one must go on in the same way.
fn tick(input: &[u8]) -> Result<usize, String> {
    const TICKS: u64 = 240;
    static LEVELS: LazyLock<Vec<Level>> = LazyLock::new(|| {
        demo::ROOMS.iter().map(|room| Level::parse(room.name, room.level).expect("the demo is right")).collect()
    });
    let Ok(file) = TuningFile::parse("f.tuning.toml", &text(input)) else { return Ok(0) };
    let sum = input.iter().fold(7_usize, |sum, byte| sum.wrapping_mul(31).wrapping_add(usize::from(*byte)));
    let level = &LEVELS[sum % LEVELS.len()];
    let timeline = timeline_of(input);
    let Ok((mut world, dab)) = level.world(&file.tuning) else { return Ok(0) };
    let mut round = level.start_round(&world, dab);
    let mut half = None;
    for tick in 1..=TICKS {
        world.tick(&[timeline.at(tick)]);
        if let Some(violation) = world.violation() {
            return Err(format!("in tick {tick} of {}: {violation:?}", level.name));
        }
        let report = world.report(dab);
        if !(report.feet.is_finite() && report.velocity.is_finite()) {
            return Err(format!("in tick {tick} of {} the feet are at {}", level.name, report.feet));
        }
        if let Some(round) = &mut round {
            round.play(&mut world, dab);
        }
        if tick == TICKS / 2 {
            half = Some((world.save(), round.as_ref().map(wumple::Round::save)));
        }
    }
    let end = (world.report(dab).clone(), round.as_ref().map(|round| round.save().hash()));
    if let Some((saved, saved_round)) = half {
        world.restore(&saved);
        if let (Some(round), Some(saved)) = (&mut round, &saved_round) {
            round.restore(saved);
        }
        for tick in TICKS / 2 + 1..=TICKS {
            world.tick(&[timeline.at(tick)]);
            if let Some(round) = &mut round {
                round.play(&mut world, dab);
            }
        }
        if (world.report(dab).clone(), round.as_ref().map(|round| round.save().hash())) != end {
            return Err(format!("a restored {} goes another way", level.name));
        }
    }
    Ok(0)
}

/// Buttons out of bytes: every eighth tick some others.
fn timeline_of(input: &[u8]) -> Timeline {
    let mut lines = String::new();
    for (index, byte) in input.iter().rev().take(30).enumerate() {
        let words = ["left", "right", "up", "down", "jump", "grab"];
        let held: Vec<&str> =
            words.into_iter().enumerate().filter(|(bit, _)| byte >> bit & 1 == 1).map(|(_, word)| word).collect();
        let held = if held.is_empty() { String::from("-") } else { held.join(" ") };
        lines += &format!("{} {held}\n", index * 8 + 1);
    }
    let file = ButtonsFile::parse("bytes", &lines, &SCALE).expect("lines as they are written");
    file.at_rate(60.0).expect("in order").0
}

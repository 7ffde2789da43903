//! The keys of a tuning, and what goes by them.

use wumple::numbers::{Bounds, Key, KeyDefault, KeyKind, Slot, keys};
use wumple::units::short;
use wumple::{Tuning, TuningFile, TuningNumbers, demo};

fn kind(key: &Key) -> String {
    match key.kind {
        KeyKind::Length => "length".into(),
        KeyKind::Time => "time".into(),
        KeyKind::Speed => "speed".into(),
        KeyKind::Acceleration => "acceleration".into(),
        KeyKind::RunRate => "acceleration, time or `\"instant\"`".into(),
        KeyKind::Lift => "speed (`flaps`), acceleration (`thrust`)".into(),
        KeyKind::Number => "number".into(),
        KeyKind::Count => "count".into(),
        KeyKind::Switch => "switch".into(),
        KeyKind::Margin => "length, or `{ left, right, above, below }`".into(),
        KeyKind::Word(words) => words.iter().map(|word| format!("`{word}`")).collect::<Vec<_>>().join(", "),
        _ => String::new(),
    }
}

fn default(key: &Key) -> String {
    match key.default {
        KeyDefault::Needed => "needed".into(),
        KeyDefault::Number(number) if number.is_infinite() => "any".into(),
        KeyDefault::Number(number) => short(number),
        KeyDefault::HalfATile => "half a tile".into(),
        KeyDefault::Word(word) => format!("`{word}`"),
        KeyDefault::Instant => "`\"instant\"`".into(),
        KeyDefault::As(words) => words.into(),
        _ => String::new(),
    }
}

fn bounds(key: &Key) -> String {
    let Bounds { least, above, most, unit } = key.bounds;
    if matches!(key.kind, KeyKind::Switch | KeyKind::Word(_)) {
        return String::new();
    }
    let from = if above { format!("above {least}") } else { format!("{least}") };
    let unit = if unit.is_empty() { String::new() } else { format!(" {unit}") };
    match most.is_finite() {
        true => format!("{from} to {most}{unit}"),
        false => from,
    }
}

fn rows() -> String {
    let mut rows = String::from("| key | kind | default | bounds | what |\n| --- | --- | --- | --- | --- |\n");
    for key in keys() {
        let (section, own) = key.parts();
        let (kind, default, bounds, what) = (kind(key), default(key), bounds(key), key.what);
        rows += &format!("| `[{section}] {own}` | {kind} | {default} | {bounds} | {what} |\n");
    }
    rows
}

/// With `RENEW=1` the page is written anew.
#[test]
fn the_documents_table_is_the_programs() {
    const PAGE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/tuning-file.md");
    let page = std::fs::read_to_string(PAGE).unwrap();
    let begin = page.find("<!-- keys").and_then(|at| Some(at + page[at..].find('\n')? + 1)).unwrap();
    let end = page.find("<!-- end of keys -->").unwrap();
    if std::env::var_os("RENEW").is_some() {
        std::fs::write(PAGE, format!("{}{}{}", &page[..begin], rows(), &page[end..])).unwrap();
        return;
    }
    assert_eq!(page[begin..end], rows(), "renew it with RENEW=1");
}

/// A tuning that has every section, with a release of this style.
fn text(shape: &str, release: &str) -> String {
    format!(
        "[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = 100\nsteady = \"left\"\n[air]\n[fall]\n[feels]\n[platform]\n[tick]\n\
         [jump]\n{shape}\nrelease = {{ {release} }}\nair_jump_release = {{ {release} }}\nhang = {{ speed = 10, gravity_ratio = 0.5 }}\n\
         [wall]\nslide = {{}}\njump = {{ height = 20 }}\nhold = {{ when = \"touched\" }}\n[ladder]\nup_speed = 50\ndown_speed = 50\n[flight]\nby = \"flaps\"\nlift = 200\n"
    )
}

/// One that is seen from above, with nothing of gravity.
const FROM_ABOVE: &str = "[body]\nwidth = 10\nheight = 20\n[four_way]\ntop_speed = 100\n";

/// Every shape and style, so that every key is somewhere.
fn texts() -> Vec<String> {
    let releases = [
        "style = \"cut\", keep = 0.5",
        "style = \"heavy\", gravity_ratio = 2",
        "style = \"sustain\", time = 0.1",
        "style = \"to-height\", tap_height = 10",
    ];
    let shapes = ["height = 50\ntime_to_apex = 0.35", "speed = 300\ngravity = 900"];
    let texts = shapes.iter().flat_map(|shape| releases.iter().map(|release| text(shape, release)));
    texts.chain([FROM_ABOVE.to_owned()]).collect()
}

fn number(key: &Key, numbers: &mut TuningNumbers) -> Option<f64> {
    match key.slot(numbers)? {
        Slot::Number(number) => Some(*number),
        Slot::Optional(number) => *number,
        Slot::Count(count) => Some(f64::from(*count)),
        Slot::RunRate(rate) => Some(if *rate == wumple::numbers::Acceleration::Instant { 0.0 } else { 1.0 }),
        Slot::OptionalRunRate(rate) => rate.map(|_| 1.0),
        Slot::Margin(margin) => Some(margin.above),
        Slot::Choice(choice) => Some(choice.index() as f64),
        _ => None,
    }
}

/// A value of the key that is not its default, as a file has it, and as its slot has it.
fn other(key: &Key) -> (String, f64) {
    match key.kind {
        KeyKind::Length | KeyKind::Speed | KeyKind::Acceleration => ("12".into(), 12.0),
        // Above what one tick of gravity takes.
        KeyKind::Lift => ("120".into(), 120.0),
        KeyKind::Time => ("0.125".into(), 0.125),
        KeyKind::RunRate => ("1200".into(), 1.0),
        KeyKind::Number => ("0.75".into(), 0.75),
        KeyKind::Margin => ("{ above = 4 }".into(), 4.0),
        KeyKind::Switch => match key.default {
            KeyDefault::Word("true") => ("false".into(), 0.0),
            _ => ("true".into(), 1.0),
        },
        KeyKind::Word(words) => (format!("\"{}\"", words[1]), 1.0),
        _ => ("3".into(), 3.0),
    }
}

#[test]
fn every_key_is_read_where_it_is_and_takes_its_default_where_it_is_not() {
    let mut seen = 0;
    for key in keys() {
        let (section, own) = key.parts();
        let mut here = 0;
        for text in texts() {
            let mut document: toml_edit::DocumentMut = text.parse().unwrap();
            let file = TuningFile::parse("t", &text).unwrap_or_else(|wrong| panic!("{wrong}\n{text}"));
            let mut numbers = file.tuning.numbers().clone();
            let is_of_other = (text == FROM_ABOVE) != section.starts_with("four_way");
            if is_of_other || key.slot(&mut numbers).is_none() {
                continue;
            }
            here += 1;
            if key.name == "jump.air_jumps" {
                // In the air it is one or the other.
                document.remove("flight");
            }
            let mut table = document.as_item_mut();
            for part in section.split('.') {
                table = &mut table[part];
            }
            if let (None, KeyDefault::Number(default)) = (table.get(own), key.default) {
                assert_eq!(number(key, &mut numbers), Some(default), "{}", key.name);
            }
            let (written, expected) = match key.name {
                "tick.rate" => ("30".into(), 30.0),
                // What follows from these must be within bounds too.
                "jump.time_to_apex" => ("0.5".into(), 0.5),
                "jump.gravity" => ("800".into(), 800.0),
                "jump.speed" => ("280".into(), 280.0),
                "flight.top_speed" => ("900".into(), 900.0),
                "fall.gravity" => continue,
                _ => other(key),
            };
            table[own] = toml_edit::Item::Value(written.parse().unwrap());
            let text = document.to_string();
            let file = TuningFile::parse("t", &text).unwrap_or_else(|wrong| panic!("{wrong}\n{text}"));
            assert_eq!(number(key, &mut file.tuning.numbers().clone()), Some(expected), "{}\n{text}", key.name);
        }
        assert!(here > 0, "no text has {}", key.name);
        seen += 1;
    }
    assert!(seen > 50);
}

#[test]
fn every_number_is_refused_just_beyond_its_bounds() {
    for key in keys() {
        let Bounds { least, above, most, .. } = key.bounds;
        for text in texts() {
            let numbers = TuningFile::parse("t", &text).unwrap().tuning.numbers().clone();
            for wrong in [if above { least } else { least - 1.0 }, most * 1.01 + 1.0, f64::NAN] {
                let mut numbers = numbers.clone();
                if wrong == f64::INFINITY {
                    continue;
                }
                match key.slot(&mut numbers) {
                    Some(Slot::Number(number)) => *number = wrong,
                    Some(Slot::Optional(number)) => *number = Some(wrong),
                    _ => continue,
                }
                let errors = Tuning::check(&numbers).unwrap_err();
                assert!(errors.0.iter().any(|error| error.key == key.name), "{} = {wrong}: {errors}", key.name);
            }
        }
    }
}

#[test]
fn names_are_those_of_sections_and_all_different() {
    let names: std::collections::BTreeSet<&str> = keys().map(|key| key.name).collect();
    assert_eq!(names.len(), keys().count());
    for key in keys() {
        assert_eq!(Key::find(key.name).map(|found| found.name), Some(key.name));
        assert!(!key.what.is_empty());
    }
    assert!(TuningFile::parse("dab", demo::DAB).is_ok());
}

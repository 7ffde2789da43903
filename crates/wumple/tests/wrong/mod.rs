//! Files that are right, to be spoiled, and how what is wrong is read.
#![allow(dead_code, reason = "every test file uses a part of it")]

use wumple::Diagnostics;
use wumple::units::Scale;

pub(crate) const TUNING: &str = r#"name = "Dab"
[scale]
tile = 16
[body]
width = "10 px"
height = "22 px"
[run]
top_speed = "7.5 tiles/s"
acceleration = "0.1 s"
[jump]
height = "3 tiles"
time_to_apex = "0.35 s"
"#;

pub(crate) const LEVEL: &str = "name = \"Room\"\ntile = 16\n[map]\nrows = '''\n......\n......\n.@....\n######\n'''\n";

pub(crate) const TRIAL: &str = r#"level = "throwing-room.level.toml"
tuning = "dab.tuning.toml"
press = "0 right; 40 right jump"
[[expect]]
event = "jumped:ground"
at = 40
within = "0.1 s"
[[expect]]
state = "rise"
between = [30, 90]
at_least = "0.1 s"
at_most = 3
[[expect]]
place = ["10 tiles", "20 px"]
before = 60
within = "2 px"
never = true
[[expect]]
number = "apex"
after = 3
at_least = "3 tiles"
"#;

pub(crate) const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };

pub(crate) fn lines(errors: &Diagnostics) -> Vec<String> {
    errors.iter().map(ToString::to_string).collect()
}

/// The text with one part replaced; `""` is replaced by adding at the end.
pub(crate) fn changed(text: &str, from: &str, to: &str) -> String {
    if from.is_empty() {
        return format!("{text}{to}\n");
    }
    assert!(text.contains(from), "{from}");
    text.replacen(from, to, 1)
}

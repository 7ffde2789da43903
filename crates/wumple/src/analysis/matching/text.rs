//! What a recording shows, as a tuning file.

use toml_edit::Value;

use super::{MatchReport, MatchedNumber};
use crate::files::TuningText;
use crate::files::edit::{Change, changed};
use crate::units::Scale;

impl MatchReport {
    /// A whole tuning file with the numbers found. What was not seen is left out, as what such a file says of it by itself; the hitbox, of
    /// which a recording tells nothing, is a tile wide and high. Each number has as many digits as its error leaves.
    #[must_use]
    pub fn tuning_text(&self) -> String {
        let top_speed = if self.number("run.top_speed").is_none() { "top_speed = \"7.5 tiles/s\"\n" } else { "" };
        let fall = match self.tells_jump() || self.number("fall.gravity").is_some() {
            true => "",
            false => "gravity = \"60 tiles/s^2\"\n",
        };
        let has_air = self.numbers.iter().any(|number| number.key.starts_with("air."));
        let text = format!(
            "# From {} by `wumple match`: the hitbox is none of it.\n\n[scale]\ntile = {}\n\n[tick]\nrate = {}\n\
             scheme = \"{}\"\n\n[body]\nwidth = \"1 tiles\"\nheight = \"1 tiles\"\n\n[run]\n{top_speed}{}\n[fall]\n{fall}{}",
            self.recording,
            self.tile_px,
            self.rate_hz,
            self.scheme,
            if has_air { "\n[air]\n" } else { "" },
            if self.tells_jump() { "\n[jump]\n" } else { "" },
        );
        self.tuning_text_into(&text)
    }

    /// The text of a tuning file with just the numbers found changed in it: comments and all else stay.
    #[must_use]
    pub fn tuning_text_into(&self, text: &str) -> String {
        let scale = Scale { tile: self.tile_px, frames_per_second: self.rate_hz };
        let has_jump = TuningText::new(text).is_some_and(|text| text.has("jump"));
        let written = self.numbers.iter().filter(|number| match number.key {
            // Speed and gravity say the jump for any scheme; height and time would be rounded to ticks.
            "jump.height" | "jump.time_to_apex" => false,
            "jump.speed" | "jump.gravity" => self.tells_jump(),
            // Beside a jump, which has a gravity of its own, it would be wrong.
            "fall.gravity" => !has_jump,
            _ => true,
        });
        let changes: Vec<Change> = written
            .map(|number| Change::new(&number.key.split('.').collect::<Vec<_>>(), value_of(number, &scale)))
            .collect();
        let mut removed: Vec<&[&str]> = Vec::new();
        if self.tells_jump() {
            removed.extend([&["jump", "height"][..], &["jump", "time_to_apex"], &["fall", "gravity"]]);
        }
        changed(text, &changes, &removed)
    }

    /// Whether both numbers that say a jump are shown.
    fn tells_jump(&self) -> bool {
        self.number("jump.speed").is_some() && self.number("jump.gravity").is_some()
    }
}

fn value_of(number: &MatchedNumber, scale: &Scale) -> Value {
    if number.at_once {
        return "instant".into();
    }
    let rounded = |value: f64, error: f64| {
        // One digit more than the error is known to.
        let digits = (1.0 - error.max(1e-9).log10().floor()).clamp(0.0, 9.0) as i32;
        let power = 10f64.powi(digits);
        (value * power).round() / power
    };
    let error = number.error.unwrap_or(0.0);
    match number.unit {
        "" => rounded(number.value, error).into(),
        unit => {
            let unit = unit.replace("px", "tiles");
            format!("{} {unit}", rounded(number.value / scale.tile, error / scale.tile)).into()
        }
    }
}

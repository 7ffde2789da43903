//! The part of `fit` for those who fly by flaps, and for those who walk four ways.

use std::path::Path;

use clap::Args;
use wumple::GameLoop;
use wumple::analysis::{
    AccelerationUnits, FlapWishes, FourWayMeasures, MoveFitError, SpeedUnits, WalkWishes, fit_flaps, fit_walk,
};
use wumple::units::{Kind, Quantity, short};

use super::arcs::{flight, four_ways};
use super::fit::quantity;
use crate::failure::Failure;
use crate::options::Format;
use crate::output;
use crate::say::say;
use crate::table;

/// Wishes of another motion than a jump.
#[derive(Args)]
pub(super) struct MoveWishes {
    /// Flaps: the presses a second that hold the height
    #[arg(long, value_name = "PRESSES", allow_negative_numbers = true)]
    hold_at: Option<f64>,
    /// Flaps: how high one is
    #[arg(long, value_name = "LENGTH", allow_hyphen_values = true)]
    flap_height: Option<String>,
    /// Flaps: how far it climbs in the first second from rest, with --presses
    #[arg(long, value_name = "LENGTH", allow_hyphen_values = true, requires = "presses")]
    climb: Option<String>,
    /// Flaps: how often a second jump is pressed in that climb
    #[arg(long, value_name = "PRESSES", allow_negative_numbers = true, requires = "climb")]
    presses: Option<f64>,
    /// Flaps: how strong gravity is
    #[arg(long, value_name = "ACCELERATION", allow_hyphen_values = true)]
    gravity: Option<String>,
    /// Walking four ways: the top speed
    #[arg(long, value_name = "SPEED", allow_hyphen_values = true)]
    walk_speed: Option<String>,
    /// Walking four ways: from rest to top speed, in a time or over a length
    #[arg(long, value_name = "TIME|LENGTH", allow_hyphen_values = true, requires = "walk_speed")]
    to_top_speed: Option<String>,
    /// Walking four ways: from top speed to rest, in a time or over a length
    #[arg(long, value_name = "TIME|LENGTH", allow_hyphen_values = true, requires = "walk_speed")]
    to_rest: Option<String>,
}

impl MoveWishes {
    /// Whether something else than a jump is wished for.
    pub(super) fn is_any(&self) -> bool {
        self.flaps() || self.walk_speed.is_some()
    }

    fn flaps(&self) -> bool {
        self.hold_at.is_some() || self.flap_height.is_some() || self.climb.is_some() || self.gravity.is_some()
    }

    pub(super) fn execute(&self, looped: &GameLoop, format: Format, write: Option<&Path>) -> Result<(), Failure> {
        if self.flaps() && self.walk_speed.is_some() {
            return Err(Failure::Usage("flaps and a walk are two tunings: ask for one of them".to_owned()));
        }
        let failure = |unfit: MoveFitError| Failure::Usage(unfit.to_string());
        let text = if let Some(speed) = &self.walk_speed {
            let wishes = WalkWishes {
                top_speed: quantity("walk-speed", speed, Kind::Speed)?,
                to_top_speed: self
                    .to_top_speed
                    .as_deref()
                    .map(|text| time_or_length("to-top-speed", text))
                    .transpose()?,
                to_rest: self.to_rest.as_deref().map(|text| time_or_length("to-rest", text)).transpose()?,
            };
            let found = fit_walk(&wishes, looped).map_err(failure)?;
            let rows = [("acceleration", found.acceleration), ("braking", found.braking)];
            self.print(
                looped,
                format,
                &found,
                &[("top speed", found.top_speed)],
                &rows,
                &walk_words(&found.predicted, looped),
            )?;
            found.text
        } else {
            let found = fit_flaps(&self.flap_wishes()?, looped).map_err(failure)?;
            let words = flight(&found.predicted, looped.scale.tile);
            let rows = [("gravity", Some(found.gravity))];
            self.print(looped, format, &found, &[("lift of a flap", found.lift)], &rows, &words)?;
            found.text
        };
        let Some(path) = write else { return Ok(()) };
        wumple::files::write_whole(path, text.as_bytes(), false)?;
        say(format_args!("written to {}", path.display()));
        Ok(())
    }

    fn flap_wishes(&self) -> Result<FlapWishes, Failure> {
        let read = |option: &str, text: &Option<String>, kind| {
            text.as_deref().map(|text| quantity(option, text, kind)).transpose()
        };
        Ok(FlapWishes {
            hold_at: self.hold_at,
            flap_height: read("flap-height", &self.flap_height, Kind::Length)?,
            climb: read("climb", &self.climb, Kind::Length)?.zip(self.presses),
            gravity: read("gravity", &self.gravity, Kind::Acceleration)?,
        })
    }

    fn print(
        &self,
        looped: &GameLoop,
        format: Format,
        found: &impl serde::Serialize,
        speeds: &[(&str, SpeedUnits)],
        accelerations: &[(&str, Option<AccelerationUnits>)],
        words: &str,
    ) -> Result<(), Failure> {
        if format == Format::Json {
            return output::print_json(found);
        }
        let row = |name: &str, values: [f64; 3]| {
            let exact = values.map(|value| format!("{value:.6}"));
            [name.to_owned()].into_iter().chain(exact).collect::<Vec<_>>()
        };
        let speeds = speeds.iter().map(|(name, speed)| row(name, [speed.px_s, speed.px_frame, speed.tiles_s]));
        let rates = accelerations.iter().map(|(name, rate)| match rate {
            Some(rate) => row(name, [rate.px_s2, rate.px_frame2, rate.tiles_s2]),
            None => vec![(*name).to_owned(), "at once".to_owned(), String::new(), String::new()],
        });
        let rows: Vec<Vec<String>> = speeds.chain(rates).collect();
        let head = ["found", "px, s", "px, frames", "tiles, s"];
        if format == Format::Csv {
            let lines = [head.map(str::to_owned).to_vec()].into_iter().chain(rows);
            return output::print(&lines.map(|line| line.join(",").replace("px, ", "px ") + "\n").collect::<String>());
        }
        let (rate, tile) = (short(looped.rate), short(looped.scale.tile));
        let loop_words = format!("\nfor {} at {rate} Hz, a tile of {tile} px:\n", looped.scheme.name());
        output::print(&(table::table(&head, rows) + &loop_words + words.trim_start_matches('\n')))
    }
}

fn walk_words(walk: &FourWayMeasures, looped: &GameLoop) -> String {
    four_ways(walk, looped.scale.tile)
}

/// A quantity that may be a time or a length; a bare number is seconds.
fn time_or_length(option: &str, text: &str) -> Result<Quantity, Failure> {
    let is_length = Quantity::parse(text).is_ok_and(|found| found.kind() == Some(Kind::Length));
    quantity(option, text, if is_length { Kind::Length } else { Kind::Time })
}

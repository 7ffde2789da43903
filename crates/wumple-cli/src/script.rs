//! What is held during a run, and for how long: the same options wherever there is a run.

use std::path::PathBuf;

use clap::Args;
use wumple::files::PracticeInput;
use wumple::units::{Kind, Quantity, Scale};
use wumple::{ButtonsFile, Timeline, TuningFile};

use crate::failure::Failure;
use crate::files::{Files, Meant};
use crate::say::{say, warn};

/// What is held, and how many ticks.
#[derive(Args)]
pub(crate) struct Script {
    /// What is held, from when on (*.buttons) [default: the project's]
    #[arg(long, value_name = "FILE", conflicts_with = "press")]
    buttons: Option<PathBuf>,
    /// The same on the command line, lines separated by semicolons
    #[arg(long, value_name = "TEXT", conflicts_with = "press_every")]
    press: Option<String>,
    #[command(flatten)]
    practice: Practice,
    /// How many ticks to run, or how long: 120, "2 s"; ten million at most, which take 3 GB [default: until two seconds after the last line of the buttons, or after ten seconds
    /// of practice]
    #[arg(long, value_name = "TICKS", value_parser = time)]
    ticks: Option<Quantity>,
}

/// No run has more ticks: every one of them is kept.
const MOST_TICKS: u64 = 10_000_000;

impl Script {
    /// Whether anything of it is given.
    pub(crate) fn says_something(&self) -> bool {
        self.buttons.is_some() || self.press.is_some() || self.practice.press_every.is_some() || self.ticks.is_some()
    }

    /// What is held at the tuning's rate, and for how many of its ticks to run; nothing if no buttons are
    /// given. What is said in ticks on the command line is in ticks of `first`, where several tunings run.
    pub(crate) fn timeline(
        &self,
        files: &Files,
        tuning: &TuningFile,
        first: &TuningFile,
    ) -> Result<(Timeline, u64), Failure> {
        let (rate, first_rate) = (tuning.tuning.rate(), first.tuning.rate());
        let asked = self.ticks.as_ref().map(|ticks| in_ticks(ticks, first_rate, &first.scale));
        let practice = self.practice.input(first_rate, &first.scale, asked)?;
        let says = self.press.is_some() || practice.is_some();
        let buttons = if says { None } else { files.given_or_meant(self.buttons.as_deref(), Meant::Buttons)? };
        let file = match (&buttons, &self.press, practice) {
            (_, _, Some(input)) => {
                let text = input.timeline().to_text(first_rate);
                Some(ButtonsFile::parse("--press-every", &text, &first.scale)?)
            }
            (Some(path), _, None) => Some(files.buttons(path, &tuning.scale)?),
            (None, Some(text), None) => Some(ButtonsFile::parse("--press", text, &tuning.scale)?),
            (None, None, None) => None,
        };
        if file.is_none() {
            say("note: nothing is held: --buttons or --press says what is");
        }
        let timeline = file.map(|file| at_rate(&file, rate)).transpose()?.unwrap_or_default();
        let asked = asked.map(|ticks| (ticks as f64 / first_rate * rate).round() as u64);
        let ticks = asked.unwrap_or_else(|| timeline.ticks_to_run(rate));
        if ticks > MOST_TICKS {
            return Err(Failure::Usage(format!(
                "the run of {} would have {ticks} ticks, and may have {MOST_TICKS}: give fewer --ticks, or earlier buttons",
                tuning.name
            )));
        }
        Ok((timeline, ticks))
    }
}

/// The file in ticks of a rate; what is odd about it is said.
pub(crate) fn at_rate(file: &ButtonsFile, rate: f64) -> Result<Timeline, Failure> {
    let (timeline, warnings) = file.at_rate(rate)?;
    warnings.iter().for_each(warn);
    Ok(timeline)
}

/// Input to practise on, instead of a file.
#[derive(Args)]
pub(crate) struct Practice {
    /// Press jump again and again, so many ticks or so much time apart: 24, "0.4 s"
    #[arg(long, value_name = "TIME", value_parser = time, conflicts_with = "buttons")]
    press_every: Option<Quantity>,
    /// By how much each press comes earlier or later, at random
    #[arg(long, value_name = "TIME", value_parser = time, requires = "press_every", default_value = "0")]
    vary: Quantity,
    /// The longest hold; each is at random from one tick to this
    #[arg(long, value_name = "TIME", value_parser = time, requires = "press_every", default_value = "12")]
    hold: Quantity,
    /// What is held all the time beside it, such as "right"
    #[arg(long, value_name = "BUTTONS", requires = "press_every", default_value = "-")]
    with: String,
    /// Another number makes other practice
    #[arg(long, value_name = "N", requires = "press_every", default_value_t = 1)]
    seed: u64,
}

/// How long practice goes on if nobody says, s.
const PRACTICE_SECONDS: f64 = 10.0;

impl Practice {
    /// The input that is asked for, if any is.
    pub(crate) fn input(&self, rate: f64, scale: &Scale, ticks: Option<u64>) -> Result<Option<PracticeInput>, Failure> {
        let Some(every) = &self.press_every else { return Ok(None) };
        let in_ticks = |time: &Quantity| in_ticks(time, rate, scale);
        let (every, vary, hold) = (in_ticks(every), in_ticks(&self.vary), in_ticks(&self.hold).max(1));
        if every < 2 + 2 * vary {
            return Err(Failure::Usage(format!(
                "--press-every: presses that vary by {vary} ticks must be at least {} ticks apart, not {every}",
                2 + 2 * vary
            )));
        }
        let with = ButtonsFile::parse("--with", &format!("0 {}", self.with), scale)?.at_rate(rate)?.0.at(0);
        let ticks = ticks.unwrap_or((PRACTICE_SECONDS * rate).round() as u64);
        if every > ticks + vary {
            say(format_args!("warning: {ticks} ticks of practice press nothing; the first press comes after {every}"));
        }
        Ok(Some(PracticeInput { every, vary, hold, with, ticks, seed: self.seed }))
    }
}

/// A time in ticks of a rate: a bare number is one of ticks.
pub(crate) fn in_ticks(time: &Quantity, rate: f64, scale: &Scale) -> u64 {
    match time.kind() {
        None => time.value.round() as u64,
        Some(_) => (time.in_px_and_seconds(scale) * rate).round() as u64,
    }
}

/// A number of ticks, or a time.
pub(crate) fn time(text: &str) -> Result<Quantity, String> {
    let quantity = Quantity::parse(text).map_err(|error| error.to_string())?;
    let is_time = quantity.kind().is_none_or(|kind| kind == Kind::Time);
    let fits = is_time && (0.0..=1e7).contains(&quantity.value);
    fits.then_some(quantity).ok_or_else(|| "a number of ticks, such as 24, or a time, such as \"0.4 s\"".into())
}

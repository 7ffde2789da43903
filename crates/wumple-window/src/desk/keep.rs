//! What is written to files: numbers, level, buttons, traces, figures, and trials made of what just happened.

use std::path::{Path, PathBuf};

use wumple::figures::{Page, run_figure};
use wumple::files::write_whole;
use wumple::units::short;
use wumple::{Event, RoundEvent, Trace, ZoneKind};

use super::{Desk, StartAt};

/// What can be written of a try.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Written {
    /// What was held.
    Buttons,
    /// Every tick, as CSV.
    Trace,
    /// The path over the level, as SVG.
    Figure,
}

/// What a trial made of a try asks for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Trial {
    /// That it lands where it did.
    LandsHere,
    /// That it comes to the goal, in the time that it took and a tenth more.
    ReachesGoal,
    /// That it does not die.
    Survives,
}

impl Desk {
    /// Writes the changed numbers into their file.
    pub fn keep_numbers(&mut self) {
        let went = self.numbers.keep(&self.folder);
        self.tell(went);
    }

    /// Writes the painted level into its file.
    pub fn keep_room(&mut self) {
        let went = self.room.keep(&self.folder);
        self.tell(went);
    }

    /// Writes something of the present try, under a name that is not taken yet.
    pub fn write(&mut self, what: Written) {
        let trace = self.player.trace();
        let (ending, contents) = match what {
            Written::Buttons => ("buttons", self.player.tried().held.to_text(trace.rate).into_bytes()),
            Written::Trace => ("csv", trace.to_csv().into_bytes()),
            Written::Figure => {
                let log = self.player.log();
                let figure = run_figure(self.level(), self.numbers.file(), trace, log.presses(), &Page::default());
                ("svg", figure.svg().as_bytes().to_vec())
            }
        };
        let path = self.free_name(ending);
        let went = write_whole(&path, &contents, false).map_err(|error| error.to_string());
        self.tell(went.map(|()| format!("written: {}", path.display())));
    }

    /// Writes a trial that asks for what just happened, and the buttons that it plays.
    pub fn write_trial(&mut self, trial: Trial) {
        let went = self.try_write_trial(trial);
        self.tell(went);
    }

    fn try_write_trial(&mut self, trial: Trial) -> Result<String, String> {
        let (level, tuning) = match (self.room.home().path(), self.numbers.home().path()) {
            (Some(level), Some(tuning)) => (level.to_owned(), tuning.to_owned()),
            _ => return Err("a trial names the files of the level and the numbers: keep both first".to_owned()),
        };
        if self.player.tried().start != StartAt::Spawn {
            return Err("a trial begins at the spawn, and this try did not: start again there".to_owned());
        }
        if self.numbers.is_unkept() || self.room.is_unkept() {
            return Err("a trial runs with what is in the files: keep the numbers and the level first".to_owned());
        }
        let expected = expectation(trial, self.player.trace(), self.player.tick_now())?;
        let trial_path = self.free_name("trial.toml");
        let buttons_path = self.free_name("buttons");
        let text = format!(
            "level = {}\ntuning = {}\nbuttons = {}\nticks = {}\n\n{expected}",
            quoted(&beside(&level, &self.folder)),
            quoted(&beside(&tuning, &self.folder)),
            quoted(&beside(&buttons_path, &self.folder)),
            self.player.tried().ticks.max(1),
        );
        let trace = self.player.trace();
        let held = self.player.tried().held.to_text(trace.rate);
        write_whole(&buttons_path, held.as_bytes(), false).map_err(|error| error.to_string())?;
        write_whole(&trial_path, text.as_bytes(), false).map_err(|error| error.to_string())?;
        Ok(format!("written: {}", trial_path.display()))
    }

    /// A name in the folder that nothing has yet: `throwing-room-2.buttons`.
    fn free_name(&self, ending: &str) -> PathBuf {
        let stem = wumple::files::file_stem(self.room.home().name());
        let name = |number: u32| self.folder.join(format!("{stem}-{number}.{ending}"));
        let number = (1..).find(|number| !name(*number).exists()).expect("there are numbers enough");
        name(number)
    }
}

/// What a trial expects, in its file's words.
fn expectation(trial: Trial, trace: &Trace, tick: u64) -> Result<String, String> {
    let rows = &trace.rows[..=tick as usize];
    Ok(match trial {
        Trial::LandsHere => {
            let landed =
                rows.iter().rev().find(|row| row.events.iter().any(|event| matches!(event, Event::Landed { .. })));
            let row = landed.ok_or("nothing has landed yet")?;
            let (x, y) = (row.feet.x, row.feet.y);
            format!("[[expect]]\nplace = [{x:?}, {y:?}]\nwithin = \"2 px\"\nat = {}\n", row.tick)
        }
        Trial::ReachesGoal => {
            let is_goal = |(at, row): (usize, &wumple::TickReport)| {
                row.events.iter().any(|event| event.enters(ZoneKind::Goal))
                    && (trace.rounds.is_empty() || trace.round_events(at).contains(&RoundEvent::Finished))
            };
            let at = rows.iter().enumerate().position(is_goal).ok_or("the goal was not reached yet")?;
            format!("[[expect]]\nnumber = \"goal_time\"\nat_most = \"{} s\"\n", short(at as f64 / trace.rate * 1.1))
        }
        Trial::Survives => {
            let died = if trace.rounds.is_empty() { "died" } else { "defeated" };
            format!("[[expect]]\nevent = \"{died}\"\nnever = true\n")
        }
    })
}

/// A path as it is written in a file of that folder.
fn beside(path: &Path, folder: &Path) -> String {
    let found = path.strip_prefix(folder).unwrap_or(path);
    found.display().to_string().replace('\\', "/")
}

fn quoted(text: &str) -> String {
    format!("{text:?}")
}

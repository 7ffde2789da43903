use std::path::{Path, PathBuf};

use clap::Args;
use wumple::analysis::ComparedRun;
use wumple::figures::{
    Figure, Page, arcs_figure, body_figure, compare_figure, level_figure, ride_figure, run_figure, run_time_figure,
    time_figure,
};
use wumple::why::{WhyLog, run_why};
use wumple::{ButtonsFile, Level, RoundEvent, Timeline, Trace, TrialFile, TuningFile, ZoneKind, demo};

use super::{arcs, compare, run};
use crate::failure::Failure;
use crate::output;
use crate::say::say;
use crate::table;

/// The whole tour on the levels that come along: tables here, figures and traces in a folder
///
/// Needs no file: everything is in the program. The folder also gets the tunings, the levels and the
/// buttons, to be changed and run again.
#[derive(Args)]
#[command(after_help = "Example:\n  wumple demo --out wumple-demo")]
pub(crate) struct Demo {
    /// The folder to write into; it is made if it is not there
    #[arg(long, value_name = "DIR", default_value = "wumple-demo")]
    out: PathBuf,
}

/// A level of the demo with the run through it.
struct Toured {
    level: Level,
    timeline: Timeline,
    trace: Trace,
    log: WhyLog,
}

impl Demo {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let dab = TuningFile::parse("dab.tuning.toml", demo::DAB)?;
        let climbing = TuningFile::parse("climbing-dab.tuning.toml", demo::CLIMBING_DAB)?;
        let throwing = tour("throwing-room", demo::THROWING_ROOM, demo::THROWING_ROOM_BUTTONS, &dab)?;
        let report = wumple::arcs([&dab]);

        output::print("The jumps of Dab, the apprentice of the Kilnworks (dab.tuning.toml):\n")?;
        output::print(&arcs::tables(&report))?;
        output::print("\nDab runs through the Throwing room (throwing-room.level.toml, throwing-room.buttons):\n")?;
        output::print(&run::table(&throwing.trace))?;
        let rooms = demo::ROOMS.len();
        output::print(&format!("\nClimbing Dab (climbing-dab.tuning.toml) goes through {rooms} rooms more:\n"))?;

        self.write("dab-arcs", &arcs_figure(&report))?;
        self.write("dab-jump-over-time", &time_figure(&report))?;
        self.write("throwing-room", &level_figure(&throwing.level, Some(&dab), &Page::default()))?;
        self.write_run("throwing-room", &throwing, &dab)?;
        self.write("climbing-dab-hitbox", &body_figure(&climbing))?;
        let mut rows = Vec::new();
        for room in demo::ROOMS {
            let toured = tour(room.name, room.level, room.buttons, &climbing)?;
            self.write_run(room.name, &toured, &climbing)?;
            if let Some(mover) = toured.trace.ridden_longest()
                && let Some(ride) = ride_figure(&toured.level, &climbing, &toured.trace, mover)
            {
                self.write(&format!("{}-ride", room.name), &ride)?;
            }
            rows.push(vec![room.name.to_owned(), room.shows.to_owned(), goal_tick(&toured.trace)]);
        }
        output::print(&table::table(&["room", "shows", "at the goal in tick"], rows))?;
        self.tour_others()?;

        self.compare_a_late_press(&throwing.level, &dab)?;
        let kept = self.write_sources()?;
        self.run_trials(kept.is_empty())?;
        let out = self.out.display();
        output::print(&format!("\nIn {out}, figures as .svg and .png:\n"))?;
        for (name, what) in [
            ("dab-arcs, dab-jump-over-time", "the jumps, measured; the full jump against time, by phase"),
            ("throwing-room", "the room, and the hitbox at its spawn"),
            ("climbing-dab-hitbox", "the hitbox with its probes, and the picture around it"),
            ("ROOM-run, ROOM-run-over-time", "the path, by state, with its events; speeds, state and buttons"),
            ("ROOM-ride", "the path on the platform ridden longest, in the level and as it sees it"),
            ("ROOM-run.csv", "every tick of it"),
            ("a-late-press-compared", "both paths, with the hitboxes at the same moments"),
            ("*.toml, *.buttons", "what it was made from: change a number and run it again, with"),
        ] {
            output::print(&format!("  {name:29} {what}"))?;
        }
        if !kept.is_empty() {
            say(format_args!("left as you changed them: {}", kept.join(", ")));
        }
        output::print(&format!(
            "\n  wumple run {out}/chimney.level.toml --tuning {out}/climbing-dab.tuning.toml \\\n      \
             --buttons {out}/chimney.buttons --figure {out}/chimney-run.svg --why"
        ))
    }

    /// Those who move in other ways than Dab.
    fn tour_others(&self) -> Result<(), Failure> {
        output::print("\nOthers, each in a room of its own:\n")?;
        let mut rows = Vec::new();
        for other in demo::OTHERS {
            let tuning = TuningFile::parse(&format!("{}.tuning.toml", other.name), other.tuning)?;
            let room = other.room;
            let toured = tour(room.name, room.level, room.buttons, &tuning)?;
            self.write_run(room.name, &toured, &tuning)?;
            let goal = goal_tick(&toured.trace);
            rows.push(vec![tuning.name, room.name.to_owned(), room.shows.to_owned(), goal]);
        }
        output::print(&table::table(&["who", "room", "what they do", "at the goal in tick"], rows))
    }

    fn compare_a_late_press(&self, level: &Level, dab: &TuningFile) -> Result<(), Failure> {
        let strict = TuningFile::parse("steps/3-fall.tuning.toml", demo::QUICK_FALL)?;
        let buttons = ButtonsFile::parse("too-late.buttons", demo::TOO_LATE_BUTTONS, &dab.scale)?;
        let run = |tuning: &TuningFile| {
            let rate = tuning.tuning.rate();
            let (timeline, _) = buttons.at_rate(rate)?;
            Ok::<_, Failure>(ComparedRun::of_tuning(level, tuning, &timeline, timeline.ticks_to_run(rate))?)
        };
        let runs = [run(&strict)?, run(dab)?];
        let comparison = wumple::compare(&runs, dab.scale.tile);
        output::print("\nA press two ticks after an edge (too-late.buttons), without coyote time and with it:\n")?;
        output::print(&compare::tables(&comparison))?;
        self.write("a-late-press-compared", &compare_figure(level, &runs, &comparison, &Page::default()))
    }

    /// The trials of the demo; of files that somebody changed nothing is promised.
    fn run_trials(&self, unchanged: bool) -> Result<(), Failure> {
        if !unchanged {
            return output::print(&format!(
                "\nFiles were changed: `wumple trial {}` judges them.\n",
                self.out.display()
            ));
        }
        output::print("\nTrials, which say whether all of it still is so:\n")?;
        for (name, _) in demo::TRIALS {
            let outcome = TrialFile::read(&self.path(name))?.run()?;
            output::print(&outcome.to_string())?;
        }
        Ok(())
    }

    fn write(&self, name: &str, figure: &Figure) -> Result<(), Failure> {
        wumple::files::write_whole(&self.path(&format!("{name}.svg")), figure.svg().as_bytes(), true)?;
        Ok(wumple::files::write_whole(&self.path(&format!("{name}.png")), &figure.png()?, true)?)
    }

    fn write_run(&self, name: &str, toured: &Toured, tuning: &TuningFile) -> Result<(), Failure> {
        let Toured { level, timeline, trace, log } = toured;
        self.write(&format!("{name}-run"), &run_figure(level, tuning, trace, log.presses(), &Page::default()))?;
        self.write(&format!("{name}-run-over-time"), &run_time_figure(level, tuning, trace, timeline, log.presses()))?;
        Ok(wumple::files::write_whole(&self.path(&format!("{name}-run.csv")), trace.to_csv().as_bytes(), true)?)
    }

    /// Writes what the demo is made from; says which files were left, because somebody changed them.
    fn write_sources(&self) -> Result<Vec<String>, Failure> {
        let mut kept = Vec::new();
        for (name, text) in demo::files() {
            let path = self.path(&name);
            match wumple::files::read_text(&path) {
                Ok(there) if there != text => kept.push(name),
                _ => wumple::files::write_whole(&path, text.as_bytes(), true)?,
            }
        }
        Ok(kept)
    }

    fn path(&self, name: &str) -> PathBuf {
        Path::new(&self.out).join(name)
    }
}

fn tour(name: &str, level: &str, buttons: &str, tuning: &TuningFile) -> Result<Toured, Failure> {
    let level = Level::parse(&format!("{name}.level.toml"), level)?;
    let buttons = ButtonsFile::parse(&format!("{name}.buttons"), buttons, &tuning.scale)?;
    let (timeline, _) = buttons.at_rate(tuning.tuning.rate())?;
    let (mut trace, log) = run_why(&level, &tuning.tuning, &timeline, timeline.last_tick() + 30)?;
    trace.show(&tuning.poses);
    Ok(Toured { level, timeline, trace, log })
}

/// The tick in which the run comes to the goal; where there is a round, to an open one.
fn goal_tick(trace: &Trace) -> String {
    let is_there = |(at, row): &(usize, &wumple::TickReport)| match trace.rounds.get(*at) {
        Some(round) => round.events.contains(&RoundEvent::Finished),
        None => row.events.iter().any(|event| event.enters(ZoneKind::Goal)),
    };
    trace.rows.iter().enumerate().find(is_there).map_or("never".to_owned(), |(_, row)| row.tick.to_string())
}

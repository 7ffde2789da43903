//! What is open, without a window: a level that is played, numbers that are changed, tries that are kept. Everything that a click, a
//! drag or a key does is here.

mod ability;
mod home;
mod keep;
mod keyboard;
mod numbers;
mod player;
mod room;
mod shown;
mod ways;

use std::path::{Path, PathBuf};

use wumple::analysis::ReachAnswer;
use wumple::files::read_text;
use wumple::{ButtonsFile, DVec2, FileError, Level, Trace, Tuning, demo};

pub use ability::{ABILITIES, Ability, RELEASE_STYLES, RELEASES, ReleaseStyle};
pub use home::Home;
pub use keep::{Trial, Written};
pub use keyboard::{KEYS, Keyboard};
pub use numbers::{Numbers, Value};
pub use player::{MOST_AGAIN, Player, StartAt, Try};
pub use room::Room;
pub use shown::Units;
pub use ways::Ways;

/// A try of fewer ticks is not worth playing again: the one before it is.
const SHORT: u64 = 30;
/// No more tries are kept as ghosts.
const MOST_GHOSTS: usize = 8;

/// All that is open.
pub struct Desk {
    /// The numbers of who plays.
    pub numbers: Numbers,
    /// The level that is played.
    pub room: Room,
    /// Who plays it.
    pub player: Player,
    /// The keys that are down.
    pub keyboard: Keyboard,
    /// The last try, as it would have gone with the numbers of now; none while they are those it was played with.
    pub again: Option<Again>,
    /// Tries that were kept, to be seen beside the present one.
    pub ghosts: Vec<Trace>,
    /// What can be reached from where who plays stood, while that is asked for.
    pub ways: Option<Ways>,
    /// What is to be said.
    pub said: Option<Said>,
    /// Where what has no file yet is kept.
    pub folder: PathBuf,
    /// The try before this one.
    before: Option<(Try, Trace)>,
    tuned: Tuning,
}

/// A try, and how it would have gone with other numbers.
pub struct Again {
    /// How it went.
    pub then: Trace,
    /// How it would go now.
    pub now: Trace,
}

/// Something that is said.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Said {
    /// In words.
    pub words: String,
    /// Whether something did not work.
    pub is_error: bool,
}

/// A file that is opened: its name, its text, and where it is kept, if it is.
#[derive(Clone, Debug)]
pub struct Source {
    /// What messages call it.
    pub name: String,
    /// Its text.
    pub text: String,
    /// Where it is.
    pub path: Option<PathBuf>,
}

impl Source {
    /// A file.
    ///
    /// # Errors
    ///
    /// If it cannot be read.
    pub fn file(path: &Path) -> Result<Source, FileError> {
        Ok(Source { name: path.display().to_string(), text: read_text(path)?, path: Some(path.to_owned()) })
    }

    /// One that comes with the program.
    #[must_use]
    pub fn of_demo(name: &str, text: &str) -> Source {
        Source { name: name.to_owned(), text: text.to_owned(), path: None }
    }
}

/// A room of the Kilnworks with who goes through it: its name, what it shows, level and tuning.
#[must_use]
pub fn demo_rooms() -> Vec<(&'static str, &'static str, Source, Source)> {
    let room = |room: &demo::Room, who: (&str, &str)| {
        let level = Source::of_demo(&format!("{}.level.toml", room.name), room.level);
        (room.name, room.shows, level, Source::of_demo(&format!("{}.tuning.toml", who.0), who.1))
    };
    let throwing = (
        "throwing-room",
        "a first jump: a floor, steps, a gap, a low ceiling",
        Source::of_demo("throwing-room.level.toml", demo::THROWING_ROOM),
        Source::of_demo("dab.tuning.toml", demo::DAB),
    );
    let climbing = demo::ROOMS.iter().map(|one| room(one, ("climbing-dab", demo::CLIMBING_DAB)));
    let others = demo::OTHERS.iter().map(|other| room(&other.room, (other.name, other.tuning)));
    std::iter::once(throwing).chain(climbing).chain(others).collect()
}

impl Desk {
    /// Opens a level and a tuning.
    ///
    /// # Errors
    ///
    /// If one of them is wrong, or the character does not fit at the spawn.
    pub fn open(level: &Source, tuning: &Source) -> Result<Desk, String> {
        let room = Room::of(&level.name, &level.text, level.path.as_deref()).map_err(|error| error.to_string())?;
        let numbers =
            Numbers::of(&tuning.name, &tuning.text, tuning.path.as_deref()).map_err(|error| error.to_string())?;
        let tuned = numbers.file().tuning.clone();
        let player = Player::new(room.level(), &tuned, StartAt::Spawn)?;
        let beside = level.path.as_deref().and_then(Path::parent).map(Path::to_owned);
        Ok(Desk {
            numbers,
            room,
            player,
            keyboard: Keyboard::default(),
            again: None,
            ghosts: Vec::new(),
            ways: None,
            said: None,
            folder: beside.unwrap_or_default(),
            before: None,
            tuned,
        })
    }

    /// Says something; an error stays until something else is said.
    pub fn say(&mut self, words: impl Into<String>) {
        self.said = Some(Said { words: words.into(), is_error: false });
    }

    /// Says that something did not work, and why.
    pub fn complain(&mut self, words: impl Into<String>) {
        self.said = Some(Said { words: words.into(), is_error: true });
    }

    /// Says how something went.
    fn tell(&mut self, went: Result<String, String>) {
        match went {
            Ok(words) => self.say(words),
            Err(words) => self.complain(words),
        }
    }

    /// The level.
    #[must_use]
    pub fn level(&self) -> &Level {
        self.room.level()
    }

    /// To be called when numbers may have changed: those in force act from the next tick on, and the last try is played again.
    pub fn numbers_changed(&mut self) {
        let tuning = &self.numbers.file().tuning;
        if *tuning == self.tuned {
            return;
        }
        self.ways.iter_mut().for_each(Ways::outdate);
        let is_other_rate = tuning.rate() != self.player.trace().rate;
        self.tuned = tuning.clone();
        if is_other_rate {
            self.restart(self.player.tried().start);
            return self.say("another rate: the try starts anew");
        }
        if let Err(why) = self.player.retune(&self.tuned) {
            self.complain(format!("from the next start on: {why}"));
        }
        self.play_again();
    }

    /// The last try that is worth it, once more with the numbers of now.
    fn play_again(&mut self) {
        let (tried, then) = match &self.before {
            Some((tried, then)) if self.player.tried().ticks < SHORT => (tried, then),
            _ => (self.player.tried(), self.player.trace()),
        };
        if tried.ticks == 0 {
            return;
        }
        match tried.again(self.room.level(), &self.tuned) {
            Ok(now) => self.again = Some(Again { then: then.clone(), now }),
            Err(why) => self.complain(why),
        }
    }

    /// A new try. What was tried before is played again when numbers change, until there is more of the new one.
    pub fn restart(&mut self, start: StartAt) {
        let new = Player::new(self.room.level(), &self.tuned, start);
        let new = match (new, start) {
            (Err(why), start) if start != StartAt::Spawn => {
                self.complain(why);
                Player::new(self.room.level(), &self.tuned, StartAt::Spawn)
            }
            (new, _) => new,
        };
        match new {
            Ok(new) => {
                let old = std::mem::replace(&mut self.player, new);
                self.again = None;
                self.player.speed = old.speed;
                self.player.see(self.keyboard.held());
                if old.tried().ticks >= SHORT {
                    self.before = Some((old.tried().clone(), old.trace().clone()));
                }
            }
            Err(why) => self.complain(why),
        }
    }

    /// A new try with the feet at a place of the level.
    pub fn restart_at(&mut self, feet: DVec2) {
        self.restart(StartAt::Place(feet));
    }

    /// A new try at the checkpoint reached last; at the spawn if none was.
    pub fn restart_at_checkpoint(&mut self) {
        match self.player.play().round().and_then(wumple::Round::checkpoint) {
            Some(zone) => self.restart(StartAt::Checkpoint(zone)),
            None => {
                self.restart(StartAt::Spawn);
                self.say("no checkpoint was reached: from the spawn");
            }
        }
    }

    /// To be called when the level was changed: what was held is played in the new one.
    pub fn room_changed(&mut self) {
        self.ways.iter_mut().for_each(Ways::outdate);
        let (tried, runs, speed) = (self.player.tried().clone(), self.player.runs, self.player.speed);
        match Player::of_try(self.room.level(), &self.tuned, &tried) {
            Ok(mut player) => {
                (player.runs, player.speed) = (runs, speed);
                player.see(self.keyboard.held());
                self.player = player;
                self.again = None;
            }
            Err(why) => self.complain(why),
        }
    }

    /// Another letter in a tile; what was held is played in the level as it is then. `goes_on`: it is part of the step before. Whether
    /// the level is another.
    ///
    /// # Errors
    ///
    /// As [`Room::paint`].
    pub fn paint(&mut self, column: i32, row: i32, letter: char, goes_on: bool) -> Result<bool, String> {
        // What is left of the level or above it has no tile.
        let (Ok(column), Ok(row)) = (usize::try_from(column), usize::try_from(row)) else { return Ok(false) };
        let is_other = self.room.paint(column, row, letter, goes_on)?;
        if is_other {
            self.room_changed();
        }
        Ok(is_other)
    }

    /// Keeps the present try to be seen beside those that follow.
    pub fn keep_ghost(&mut self) {
        if self.ghosts.len() == MOST_GHOSTS {
            self.ghosts.remove(0);
        }
        self.ghosts.push(self.player.trace().clone());
        let count = self.ghosts.len();
        self.say(format!("kept to be seen beside others: {count}"));
    }

    /// Asks what can be reached from where who plays stands, or stood last; or, if that is shown, asks no longer.
    pub fn ask_for_ways(&mut self) {
        if self.ways.take().is_some() {
            return;
        }
        let rows = &self.player.trace().rows[..=self.player.tick_now() as usize];
        match rows.iter().rev().find(|row| row.contacts.below) {
            Some(row) => self.ways = Some(Ways::look(self.room.level(), self.numbers.file(), row.feet)),
            None => self.complain("it has not stood anywhere yet, to reach something from there"),
        }
    }

    /// Plays the way to what can be reached at a place of the level: a try that begins where ways were asked for. Says why there is
    /// none, where there is none.
    pub fn play_way_to(&mut self, place: DVec2) {
        let Some(ways) = &self.ways else { return };
        let Some(target) = ways.at(place, self.numbers.file().scale.tile) else {
            return self.say("there is nothing to be reached there");
        };
        let name = target.target.clone();
        match &target.answer {
            ReachAnswer::Reached { held, ticks, .. } => {
                let tried = Try { start: StartAt::Place(ways.from()), held: held.clone(), ticks: *ticks };
                match Player::of_try(self.room.level(), &self.tuned, &tried) {
                    Ok(mut player) => {
                        player.speed = self.player.speed;
                        player.show_again();
                        self.player = player;
                        self.again = None;
                        let seconds = tried.ticks as f64 / self.tuned.rate();
                        self.say(format!("the way to {name}: {} s", wumple::units::short(seconds)));
                    }
                    Err(why) => self.complain(why),
                }
            }
            ReachAnswer::OutOfReach { why } => {
                let words = format!("{name} is out of reach: {why}");
                self.say(words);
            }
            ReachAnswer::NotFound => self.say(format!("no way to {name} was found; that there is none is not certain")),
        }
    }

    /// Plays buttons from a file, from the spawn on, as far as they go; then it stands still there.
    pub fn play_buttons(&mut self, name: &str, text: &str) {
        let rate = self.tuned.rate();
        let file = ButtonsFile::parse(name, text, &self.numbers.file().scale);
        match file.and_then(|file| file.at_rate(rate)) {
            Ok((held, _)) => {
                let ticks = held.ticks_to_run(rate);
                let tried = Try { start: StartAt::Spawn, held, ticks };
                match Player::of_try(self.room.level(), &self.tuned, &tried) {
                    Ok(mut player) => {
                        player.runs = false;
                        self.player = player;
                        self.again = None;
                        self.say(format!("played: {name}"));
                    }
                    Err(why) => self.complain(why),
                }
            }
            Err(errors) => self.complain(errors.to_string()),
        }
    }

    /// Opens a file beside what is open: another level, another tuning, or buttons, which are played to their end.
    pub fn open_file(&mut self, path: &Path) {
        let name = path.to_string_lossy().into_owned();
        let is = |ending: &str| name.ends_with(ending);
        if ![".level.toml", ".tuning.toml", ".buttons"].into_iter().any(is) {
            return self.complain("what is opened is a *.level.toml, a *.tuning.toml or a *.buttons");
        }
        match Source::file(path) {
            Ok(buttons) if is(".buttons") => self.play_buttons(&name, &buttons.text),
            Ok(level) if is(".level.toml") => drop(self.open_other(&level, &self.numbers_source())),
            Ok(tuning) => drop(self.open_other(&self.room_source(), &tuning)),
            Err(error) => self.complain(error.to_string()),
        }
    }

    /// Opens another level and tuning in the place of what is open, unless that is not kept yet. Whether it did.
    pub fn open_other(&mut self, level: &Source, tuning: &Source) -> bool {
        if self.is_unkept() {
            self.complain("not everything is kept: keep it, or undo it, before another file");
            return false;
        }
        match Desk::open(level, tuning) {
            Ok(mut desk) => {
                if desk.room.home().path().is_none() {
                    desk.folder.clone_from(&self.folder);
                }
                desk.keyboard = std::mem::take(&mut self.keyboard);
                desk.player.see(desk.keyboard.held());
                *self = desk;
                self.say(format!("opened: {}, {}", level.name, tuning.name));
                true
            }
            Err(why) => {
                self.complain(why);
                false
            }
        }
    }

    fn numbers_source(&self) -> Source {
        source_of(self.numbers.home(), self.numbers.text())
    }

    fn room_source(&self) -> Source {
        source_of(self.room.home(), self.room.text().to_owned())
    }

    /// The files that are open: where another program may change them.
    #[must_use]
    pub fn files(&self) -> Vec<PathBuf> {
        [self.numbers.home(), self.room.home()].into_iter().filter_map(|home| home.path().map(Path::to_owned)).collect()
    }

    /// A frame that took so long, s: the ticks that are due.
    pub fn frame(&mut self, seconds: f64) -> u32 {
        if let Some(ways) = &mut self.ways {
            ways.frame(seconds, self.room.level(), self.numbers.file());
        }
        self.player.advance(seconds)
    }

    /// A file was changed by another program.
    pub fn changed_on_disk(&mut self, path: &Path) {
        let is = |known: Option<&Path>| known.is_some_and(|known| is_same(known, path));
        let (of_numbers, of_room) = (is(self.numbers.home().path()), is(self.room.home().path()));
        if !(of_numbers || of_room) {
            return;
        }
        // While it is being replaced it may not be there; it is told of again when it is.
        let Ok(text) = read_text(path) else { return };
        if of_numbers {
            self.numbers.changed_on_disk(&text);
            self.numbers_changed();
        }
        if of_room {
            let before = self.room.text().to_owned();
            if let Err(why) = self.room.changed_on_disk(&text) {
                self.complain(why);
            }
            if self.room.text() != before {
                self.room_changed();
            }
        }
    }

    /// Takes what another program wrote into the files; what was changed here can be had back by undoing.
    pub fn take_theirs(&mut self) {
        self.numbers.take_theirs();
        if self.room.is_asked() {
            self.room.take_theirs();
            self.room_changed();
        }
    }

    /// Takes what another program wrote into the files, and puts what was changed here upon it.
    pub fn keep_mine(&mut self) {
        self.numbers.keep_mine();
        if self.room.is_asked() {
            let went = self.room.keep_mine();
            self.room_changed();
            if let Err(why) = went {
                self.complain(why);
            }
        }
    }

    /// Whether a file was changed elsewhere while there are changes here.
    #[must_use]
    pub fn is_asked(&self) -> bool {
        self.numbers.is_asked() || self.room.is_asked()
    }

    /// Writes all that is not kept yet.
    pub fn keep_all(&mut self) {
        if self.numbers.is_unkept() {
            self.keep_numbers();
        }
        if self.room.is_unkept() {
            self.keep_room();
        }
    }

    /// Whether anything would be lost if the window were closed now.
    #[must_use]
    pub fn is_unkept(&self) -> bool {
        self.numbers.is_unkept() || self.room.is_unkept()
    }
}

fn source_of(home: &Home, text: String) -> Source {
    Source { name: home.name().to_owned(), text, path: home.path().map(Path::to_owned) }
}

/// Whether two paths are of one file.
fn is_same(one: &Path, other: &Path) -> bool {
    let whole = |path: &Path| std::fs::canonicalize(path).or_else(|_| std::path::absolute(path));
    matches!((whole(one), whole(other)), (Ok(one), Ok(other)) if one == other)
}

impl Again {
    /// What the numbers of now make of the try, in a line. `tile`: the side of a tile, px.
    #[must_use]
    pub fn words(&self, tile: f64) -> String {
        let height = |trace: &Trace| {
            let start = trace.rows[0].feet.y;
            trace.rows.iter().map(|row| start - row.feet.y).fold(0.0, f64::max) / tile
        };
        let way = |trace: &Trace| (trace.rows[trace.rows.len() - 1].feet.x - trace.rows[0].feet.x) / tile;
        let apart =
            self.then.rows.iter().zip(&self.now.rows).find(|(one, other)| (one.feet - other.feet).length() > 1e-6);
        let apart = match apart {
            Some((row, _)) => format!("apart from tick {}", row.tick),
            None => "no difference".to_owned(),
        };
        let (then, now) = (&self.then, &self.now);
        format!(
            "with these numbers: {apart}; highest {} -> {} tiles, end {} -> {} tiles along",
            wumple::units::short(height(then)),
            wumple::units::short(height(now)),
            wumple::units::short(way(then)),
            wumple::units::short(way(now)),
        )
    }
}

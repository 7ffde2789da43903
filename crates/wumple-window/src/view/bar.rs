//! The bar: rooms, time, steps back, what is kept, what is shown, what the pointer does; and what there is to say.

use std::path::PathBuf;

use eframe::egui::{self, Key, RichText, TextEdit, Ui};

use super::colours::Colours;
use super::{SPEEDS, Tool, Window, told};
use crate::desk::{KEYS, StartAt, Trial, Written, demo_rooms};

impl Window {
    pub(super) fn show_bar(&mut self, ui: &mut Ui) {
        ui.horizontal_wrapped(|ui| {
            self.show_rooms(ui);
            ui.separator();
            self.show_time_buttons(ui);
            ui.separator();
            self.show_steps(ui);
            ui.separator();
            self.show_keep(ui);
            self.show_what(ui);
            self.show_tools(ui);
            self.show_help(ui);
            let other = if self.dark { "Light" } else { "Dark" };
            if ui.button(other).on_hover_text("light or dark colours").clicked() {
                self.dark = !self.dark;
                ui.ctx().set_theme(if self.dark { egui::Theme::Dark } else { egui::Theme::Light });
            }
        });
        self.show_said(ui);
    }

    fn show_rooms(&mut self, ui: &mut Ui) {
        let name = format!("{}: {}", self.desk.level().name, self.desk.numbers.file().name);
        let (mut chosen, mut opens) = (None, false);
        let path = &mut self.path;
        ui.menu_button(name, |ui| {
            let label = ui.label(RichText::new("A file").weak());
            ui.horizontal(|ui| {
                let field = TextEdit::singleline(path).desired_width(190.0).hint_text("room.level.toml");
                let field = ui.add(field).labelled_by(label.id);
                let field = field
                    .on_hover_text("a *.level.toml, *.tuning.toml or *.buttons; one can be dropped on the window, too");
                let is_entered = field.lost_focus() && ui.input(|input| input.key_pressed(Key::Enter));
                if ui.button("Open").on_hover_text("opens the file of this path beside what is open (Enter)").clicked()
                    || is_entered
                {
                    opens = true;
                    ui.close();
                }
            });
            ui.separator();
            ui.label(RichText::new("Rooms of the Kilnworks").weak());
            for (at, (name, shows, ..)) in demo_rooms().iter().enumerate() {
                if ui.button(name.replace('-', " ")).on_hover_text(*shows).clicked() {
                    chosen = Some(at);
                    ui.close();
                }
            }
        })
        .response
        .on_hover_text("the level and who plays it; another room");
        if opens {
            self.open_file(&PathBuf::from(self.path.trim()));
        }
        if let Some(at) = chosen {
            self.open_room(at);
        }
    }

    fn open_room(&mut self, at: usize) {
        let (_, _, level, tuning) = demo_rooms().swap_remove(at);
        if self.desk.open_other(&level, &tuning) {
            self.look_anew();
        }
    }

    fn show_time_buttons(&mut self, ui: &mut Ui) {
        let player = &mut self.desk.player;
        let (words, tip) = match (player.is_back(), player.runs) {
            (true, _) => ("Play on", "play on from the tick that is looked at (P)"),
            (false, true) => ("Pause", "stop time (P)"),
            (false, false) => ("Play", "let time go on (P)"),
        };
        if ui.button(words).on_hover_text(tip).clicked() {
            player.runs = !player.runs;
        }
        if ui.button("Step").on_hover_text("one tick (N); , and . look at the tick before and after").clicked() {
            self.step();
        }
        for speed in SPEEDS {
            let is_now = self.desk.player.speed == speed.of_time;
            let label = ui.selectable_label(is_now, speed.name);
            let tip = format!("time at {} of its speed in the game (key {})", speed.name, speed.key.name());
            if label.on_hover_text(tip).clicked() {
                self.desk.player.speed = speed.of_time;
            }
        }
        if ui.button("Start again").on_hover_text("a new try, from the spawn (R)").clicked() {
            self.desk.restart(StartAt::Spawn);
        }
        let has_round = self.desk.level().round.is_some();
        let tip = if has_round {
            "a new try, from the checkpoint reached last (B)"
        } else {
            "the level has no round, so no checkpoint"
        };
        if told(ui.add_enabled(has_round, egui::Button::new("At checkpoint")), tip).clicked() {
            self.desk.restart_at_checkpoint();
        }
        let ways = ui.selectable_label(self.desk.ways.is_some(), "Ways");
        let tip = "what can be reached from where it stands, and what nobody can reach (V); a click there, or H, plays the way";
        if ways.on_hover_text(tip).clicked() {
            self.desk.ask_for_ways();
        }
    }

    fn show_steps(&mut self, ui: &mut Ui) {
        let paints = matches!(self.tool, Tool::Paint(_));
        let mut step = |words: &str, of_numbers: Option<&str>, tip: &str| {
            let what = if paints { "a stroke of paint" } else { of_numbers.unwrap_or("nothing") };
            let button = ui.add_enabled(paints || of_numbers.is_some(), egui::Button::new(words));
            told(button, tip.replace("{}", what)).clicked()
        };
        let undoes = step("Undo", self.desk.numbers.undoes(), "take back: {} (Ctrl+Z)");
        let redoes = step("Redo", self.desk.numbers.redoes(), "do again: {} (Ctrl+Y)");
        if undoes {
            self.undo();
        }
        if redoes {
            self.redo();
        }
    }

    fn show_keep(&mut self, ui: &mut Ui) {
        ui.menu_button("Keep", |ui| {
            let item = |ui: &mut Ui, words: &str, tip: &str| {
                let clicked = ui.button(words).on_hover_text(tip).clicked();
                if clicked {
                    ui.close();
                }
                clicked
            };
            if item(ui, "The numbers", "writes the changed keys into the tuning's file; comments stay (Ctrl+S)") {
                self.desk.keep_numbers();
            }
            if item(ui, "The level", "writes the painted letters into the level's file") {
                self.desk.keep_room();
            }
            ui.separator();
            if item(ui, "This try, to be seen beside others", "its path stays, grey (G)") {
                self.desk.keep_ghost();
            }
            if item(ui, "What was held", "a *.buttons file that plays this try") {
                self.desk.write(Written::Buttons);
            }
            if item(ui, "Every tick", "a trace, as CSV") {
                self.desk.write(Written::Trace);
            }
            if item(ui, "A figure", "the path over the level, as SVG") {
                self.desk.write(Written::Figure);
            }
            ui.separator();
            if item(ui, "A trial: it must land there", "a trial that asks for the last landing, within 2 px") {
                self.desk.write_trial(Trial::LandsHere);
            }
            if item(ui, "A trial: it must reach the goal", "in the time that it took, and a tenth more") {
                self.desk.write_trial(Trial::ReachesGoal);
            }
            if item(ui, "A trial: it must not die", "a trial of what was held, that nobody dies of") {
                self.desk.write_trial(Trial::Survives);
            }
        })
        .response
        .on_hover_text("writes to files beside the level");
    }

    fn show_what(&mut self, ui: &mut Ui) {
        ui.menu_button("Show", |ui| {
            let shows = &mut self.shows;
            let all = [
                (
                    &mut shows.path,
                    "the path, by state",
                    "celadon runs, cobalt rises, terracotta falls, ochre is at a wall, plum on a ladder",
                ),
                (
                    &mut shows.events,
                    "what happened, in words",
                    "beside its place, with its tick; what has no room is left out",
                ),
                (&mut shows.arc, "where a jump leads from here", "terracotta: let go at once; cobalt: held on"),
                (
                    &mut shows.boxes,
                    "hitbox, wall probes, picture",
                    "the hitbox every ten ticks; what is drawn is the outline",
                ),
                (
                    &mut shows.zones,
                    "hazards, pickups, goals",
                    "a triangle hurts, a rhomb is fetched, a flag is a checkpoint, a frame is a goal",
                ),
                (&mut shows.contacts, "where it is touched", "those sides of the hitbox"),
                (&mut shows.routes, "ways of platforms", "dashed, through their middles"),
                (&mut shows.ghosts, "tries that were kept", "grey; G keeps one"),
                (&mut shows.camera, "what the level's camera sees", "a dashed frame, where the level has a camera"),
                (&mut shows.grid, "a line at each tile", "where tiles are not too small for it"),
            ];
            for (shown, words, tip) in all {
                ui.checkbox(shown, words).on_hover_text(tip);
            }
            ui.separator();
            if ui.button("Follow who plays").on_hover_text("as large as fits, and with it (F)").clicked() {
                self.look.follow();
                ui.close();
            }
            if ui.button("Forget the kept tries").on_hover_text("their grey paths go").clicked() {
                self.desk.ghosts.clear();
                ui.close();
            }
        })
        .response
        .on_hover_text("what is drawn over the level");
    }

    fn show_tools(&mut self, ui: &mut Ui) {
        let name = match self.tool {
            Tool::Hand => "Pointer: pans".to_owned(),
            Tool::Place => "Pointer: starts".to_owned(),
            Tool::Paint(letter) => format!("Pointer: paints {letter}"),
        };
        let letters: Vec<(char, String)> =
            self.desk.level().letters.iter().map(|kind| (kind.letter, kind_words(kind))).collect();
        let why_not = self.desk.room.why_not_painted();
        ui.menu_button(name, |ui| {
            let mut choose = |ui: &mut Ui, tool: Tool, words: &str, tip: &str| {
                if ui.selectable_label(self.tool == tool, words).on_hover_text(tip).clicked() {
                    self.tool = tool;
                    ui.close();
                }
            };
            choose(ui, Tool::Hand, "pans", "drag the level; the wheel zooms");
            choose(ui, Tool::Place, "starts a try", "a click puts the feet there");
            ui.separator();
            match why_not {
                Some(why) => {
                    ui.label(RichText::new(why).weak());
                }
                None => {
                    for (letter, words) in letters {
                        choose(ui, Tool::Paint(letter), &format!("paints {letter}  {words}"), "drag over the tiles");
                    }
                }
            }
        })
        .response
        .on_hover_text("what the pointer does over the level");
    }

    fn show_help(&mut self, ui: &mut Ui) {
        ui.menu_button("Keys", |ui| {
            egui::Grid::new("keys").num_columns(2).show(ui, |ui| {
                for (button, keys) in KEYS {
                    ui.label(button);
                    ui.label(keys.map(Key::name).join(" or "));
                    ui.end_row();
                }
                for (key, words) in [
                    ("P", "pause and play"),
                    ("N", "one tick"),
                    (", and .", "look at the tick before, after"),
                    ("drag the timeline", "go back to any tick"),
                    ("1 to 4", "how fast time goes"),
                    ("R", "start again"),
                    ("B", "start at the checkpoint"),
                    ("G", "keep this try's path"),
                    ("F", "follow who plays"),
                    ("V", "what can be reached from here"),
                    ("H", "the way to the pointer is played"),
                    ("+ and -", "larger, smaller"),
                    ("Shift and arrows", "pan; with a tool, to another tile"),
                    ("Enter", "use the tool on that tile"),
                    ("Ctrl+Z, Ctrl+Y", "undo, redo"),
                    ("Ctrl+S", "keep the numbers"),
                    ("Tab, Esc", "to the controls, back to playing"),
                ] {
                    ui.label(words);
                    ui.label(key);
                    ui.end_row();
                }
            });
        })
        .response
        .on_hover_text("which key does what");
    }

    /// What there is to say, and to be asked.
    fn show_said(&mut self, ui: &mut Ui) {
        let colours = Colours::of(self.dark);
        if self.desk.is_asked() {
            ui.horizontal(|ui| {
                let words = "A file was changed by another program, and there are changes here that are not kept.";
                ui.label(RichText::new(words).color(colours.terracotta));
                if ui
                    .button("Take the file")
                    .on_hover_text("what was changed here can be had back by undoing")
                    .clicked()
                {
                    self.desk.take_theirs();
                }
                if ui.button("Keep mine on it").on_hover_text("the file, with what was changed here upon it").clicked()
                {
                    self.desk.keep_mine();
                }
            });
        }
        let said = self.desk.said.clone();
        ui.horizontal(|ui| {
            let (words, colour) = match said {
                Some(said) if said.is_error => (said.words, colours.terracotta),
                Some(said) => (said.words, colours.smoke),
                None => (
                    "Arrows and Space play it; drag a number, and the last try goes again with it.".to_owned(),
                    colours.smoke,
                ),
            };
            let label = egui::Label::new(RichText::new(&words).color(colour)).truncate();
            ui.add(label).on_hover_text(words);
        });
    }
}

/// What a letter stands for, in a word or two.
fn kind_words(kind: &wumple::files::LetterKind) -> String {
    let surface = match kind.properties.surface {
        wumple::Surface::Solid => "solid",
        wumple::Surface::OneWay => "one-way",
        wumple::Surface::Ladder => "ladder",
        wumple::Surface::Ramp { .. } => "ramp",
        wumple::Surface::Empty if kind.letter == '@' => "spawn",
        _ => "empty",
    };
    match kind.properties.zone {
        Some(zone) if surface == "empty" => zone.kind.to_string(),
        Some(zone) => format!("{surface}, {}", zone.kind),
        None => surface.to_owned(),
    }
}

//! The window: a bar, the level, the numbers, the timeline. What is shown, and what a click, a drag or a key does.

mod bar;
mod canvas;
mod colours;
mod others;
mod panel;
mod sight;
mod timeline;

use std::path::{Path, PathBuf};
use std::sync::mpsc::Receiver;

use eframe::egui::{
    self, Align, CentralPanel, Context, Event, Key, Layout, Modal, Panel, PointerButton, Response, Sense, Ui,
    ViewportCommand,
};
use wumple::{Buttons, DVec2, Terrain};

use canvas::Canvas;
pub use canvas::Shows;
use colours::Colours;
pub use panel::PanelState;
pub use sight::Look;
use sight::Sight;
use timeline::TimeView;

use crate::desk::{Desk, Numbers, Room, StartAt, Ways};

/// What the pointer does over the level.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Tool {
    /// It pans.
    #[default]
    Hand,
    /// A click begins a try there.
    Place,
    /// It paints this letter.
    Paint(char),
}

/// Something that was done on a gamepad.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum PadEdge {
    /// This is held now.
    Held(Buttons),
    /// Time stops, or goes on.
    Pause,
    /// A new try begins.
    Restart,
}

/// A speed of time.
struct Speed {
    of_time: f64,
    name: &'static str,
    key: Key,
}

const SPEEDS: [Speed; 4] = [
    Speed { of_time: 1.0, name: "1", key: Key::Num1 },
    Speed { of_time: 0.5, name: "1/2", key: Key::Num2 },
    Speed { of_time: 0.25, name: "1/4", key: Key::Num3 },
    Speed { of_time: 0.1, name: "1/10", key: Key::Num4 },
];

/// How wide the column of reasons is, points.
const WHY_WIDTH: f32 = 330.0;

/// Is told which files are open, whenever they are others.
pub type Watch = Box<dyn FnMut(&[PathBuf])>;

/// The whole of the window.
pub struct Window {
    /// What is open.
    pub desk: Desk,
    /// What is drawn.
    pub shows: Shows,
    /// Where in the level.
    pub look: Look,
    /// The numbers' panel.
    pub panel: PanelState,
    /// What the pointer does.
    pub tool: Tool,
    /// Dark colours.
    pub dark: bool,
    /// Paths of files that were changed.
    changes: Option<Receiver<PathBuf>>,
    /// Asked to tell of these files, when they are others than before.
    watch: Watch,
    watched: Vec<PathBuf>,
    /// The path of a file to be opened, as it is typed.
    path: String,
    /// What was done on a gamepad.
    pad: Box<dyn FnMut() -> Vec<PadEdge>>,
    pad_held: Buttons,
    time: TimeView,
    /// The tile that the keys have come to, where the tool is used by keyboard: column and row.
    tile: Option<(i32, i32)>,
    /// What of the level was seen last.
    seen: Option<Sight>,
    /// Where in the level the pointer is, px, while it is over it.
    pointer: Option<DVec2>,
    /// Whether a stroke of paint goes on.
    paints: bool,
    /// Closing was asked for while something is not kept.
    closes: bool,
    is_closed: bool,
    has_style: bool,
}

impl Window {
    /// A window of what is open.
    #[must_use]
    pub fn new(desk: Desk) -> Window {
        Window {
            desk,
            shows: Shows::default(),
            look: Look::default(),
            panel: PanelState::default(),
            tool: Tool::default(),
            dark: false,
            changes: None,
            watch: Box::new(|_| {}),
            watched: Vec::new(),
            path: String::new(),
            pad: Box::new(Vec::new),
            pad_held: Buttons::NONE,
            time: TimeView::default(),
            tile: None,
            seen: None,
            pointer: None,
            paints: false,
            closes: false,
            is_closed: false,
            has_style: false,
        }
    }

    /// Hears of files that another program changed; `watch` is told which are open.
    pub fn hear_changes(&mut self, changes: Receiver<PathBuf>, watch: Watch) {
        (self.changes, self.watch) = (Some(changes), watch);
    }

    /// Asks a gamepad in every frame: all that was done on it since the last, in order.
    pub fn ask_pad(&mut self, pad: impl FnMut() -> Vec<PadEdge> + 'static) {
        self.pad = Box::new(pad);
    }

    /// A frame: takes what was pressed, plays the ticks that are due, and shows it.
    pub fn ui(&mut self, ui: &mut Ui) {
        let ctx = ui.ctx().clone();
        if !self.has_style {
            self.set_style(&ctx);
        }
        self.hear();
        for file in ctx.input(|input| input.raw.dropped_files.clone()) {
            self.open_file(file.path());
        }
        self.take_keys(&ctx);
        let seconds = f64::from(ctx.input(|input| input.unstable_dt)).min(0.25);
        self.desk.frame(seconds);
        let colours = Colours::of(self.dark);
        Panel::top("bar").show(ui, |ui| self.show_bar(ui));
        Panel::bottom("time").resizable(true).default_size(196.0).size_range(120.0..=360.0).show(ui, |ui| {
            self.show_time(ui, &colours);
        });
        Panel::right("numbers").resizable(true).default_size(388.0).size_range(320.0..=560.0).show(ui, |ui| {
            ui.add_space(4.0);
            panel::show(ui, &mut self.panel, &mut self.desk.numbers, &colours);
        });
        self.desk.numbers_changed();
        CentralPanel::no_frame().show(ui, |ui| self.show_level(ui, &colours));
        self.mind_closing(&ctx);
        let player = &self.desk.player;
        let is_looking = self.desk.ways.as_ref().is_some_and(Ways::is_looking);
        if player.is_shown_again() || is_looking || (player.runs && !player.is_over()) {
            ctx.request_repaint();
        }
    }

    fn set_style(&mut self, ctx: &Context) {
        ctx.set_theme(if self.dark { egui::Theme::Dark } else { egui::Theme::Light });
        for dark in [false, true] {
            let theme = if dark { egui::Theme::Dark } else { egui::Theme::Light };
            ctx.set_visuals_of(theme, Colours::visuals(dark));
        }
        ctx.all_styles_mut(|style| {
            style.spacing.item_spacing = egui::vec2(6.0, 4.0);
            style.interaction.tooltip_delay = 0.35;
        });
        self.has_style = true;
    }

    /// Files that were changed elsewhere.
    fn hear(&mut self) {
        let changed: Vec<PathBuf> = self.changes.iter().flat_map(|changes| changes.try_iter()).collect();
        for path in changed {
            self.desk.changed_on_disk(&path);
        }
        let files = self.desk.files();
        if files != self.watched {
            (self.watch)(&files);
            self.watched = files;
        }
    }

    /// Opens a file: one that was dropped on the window, or whose path was typed.
    fn open_file(&mut self, path: &Path) {
        self.desk.open_file(path);
        self.look_anew();
    }

    /// Something else is open.
    fn look_anew(&mut self) {
        self.look.follow();
        (self.tool, self.tile, self.time) = (Tool::Hand, None, TimeView::default());
    }

    /// Every edge of a key in order: of the buttons of who plays, and of the window's own.
    fn take_keys(&mut self, ctx: &Context) {
        for edge in (self.pad)() {
            match edge {
                PadEdge::Held(held) => {
                    self.pad_held = held;
                    self.see();
                }
                PadEdge::Pause => self.desk.player.runs = !self.desk.player.runs,
                PadEdge::Restart => self.desk.restart(StartAt::Spawn),
            }
        }
        // While a field or a slider has the keyboard, keys are its own.
        let is_taken = ctx.memory(|memory| memory.focused().is_some());
        let events = ctx.input(|input| input.events.clone());
        for event in events {
            match event {
                Event::WindowFocused(false) => {
                    self.desk.keyboard.let_go();
                    self.see();
                }
                Event::Key { key, physical_key, pressed, repeat: false, modifiers, .. } => {
                    let is_command = modifiers.command || modifiers.alt;
                    let place = physical_key.unwrap_or(key);
                    if pressed && !is_taken && modifiers.shift_only() && self.move_by_key(key) {
                        continue;
                    }
                    // What is let go is let go, whoever has the keyboard.
                    if (!pressed || !(is_taken || is_command)) && self.desk.keyboard.turn(place, pressed).is_some() {
                        self.see();
                    } else if pressed && is_command {
                        self.command(key, modifiers.shift);
                    } else if pressed && !is_taken {
                        self.press(key);
                    } else if pressed && key == Key::Escape {
                        ctx.memory_mut(|memory| memory.stop_text_input());
                    }
                }
                _ => {}
            }
        }
    }

    /// The keyboard and the pad together.
    fn see(&mut self) {
        let keys = self.desk.keyboard.held();
        let mut held = self.pad_held;
        for button in Buttons::ALL {
            button.hold(&mut held, button.is_held(&keys) || button.is_held(&self.pad_held));
        }
        self.desk.player.see(held);
    }

    fn press(&mut self, key: Key) {
        match key {
            Key::P => self.desk.player.runs = !self.desk.player.runs,
            Key::N => self.step(),
            Key::R => self.desk.restart(StartAt::Spawn),
            Key::B => self.desk.restart_at_checkpoint(),
            Key::G => self.desk.keep_ghost(),
            Key::V => self.desk.ask_for_ways(),
            Key::H => self.pointer.into_iter().for_each(|place| self.desk.play_way_to(place)),
            Key::F => self.look.follow(),
            Key::Plus | Key::Equals => self.zoom(1.25),
            Key::Minus => self.zoom(0.8),
            Key::Enter => self.use_tool_at_tile(),
            Key::Comma => self.go_by(-1),
            Key::Period => self.go_by(1),
            _ => {
                let speed = SPEEDS.iter().find(|speed| speed.key == key);
                speed.into_iter().for_each(|speed| self.desk.player.speed = speed.of_time);
            }
        }
    }

    fn command(&mut self, key: Key, shift: bool) {
        match (key, shift) {
            (Key::Z, false) => self.undo(),
            (Key::Z, true) | (Key::Y, _) => self.redo(),
            (Key::S, _) => self.desk.keep_numbers(),
            _ => {}
        }
    }

    /// A step back: of the paint while it is in the hand, else of the numbers.
    fn undo(&mut self) {
        self.take_step(Numbers::undo, Room::undo);
    }

    fn redo(&mut self) {
        self.take_step(Numbers::redo, Room::redo);
    }

    fn take_step(&mut self, of_numbers: fn(&mut Numbers), of_room: fn(&mut Room) -> bool) {
        if !matches!(self.tool, Tool::Paint(_)) {
            of_numbers(&mut self.desk.numbers);
        } else if of_room(&mut self.desk.room) {
            self.desk.room_changed();
        }
    }

    /// Shift and an arrow: the level is panned by a tile, or with a tool in the hand another tile is come to. Whether it was one.
    fn move_by_key(&mut self, key: Key) -> bool {
        let by = match key {
            Key::ArrowLeft => (-1, 0),
            Key::ArrowRight => (1, 0),
            Key::ArrowUp => (0, -1),
            Key::ArrowDown => (0, 1),
            _ => return false,
        };
        let grid = &self.desk.level().grid;
        if self.tool == Tool::Hand {
            let tile = grid.grid_lines().spacing();
            self.look.go(DVec2::new(f64::from(by.0), f64::from(by.1)) * tile, self.seen);
        } else {
            let (column, row) = self.tile.unwrap_or_else(|| self.tile_of_player());
            let within = |place: i32, count: i32| place.clamp(0, count - 1);
            self.tile = Some((within(column + by.0, grid.columns()), within(row + by.1, grid.rows())));
        }
        true
    }

    /// The tile that the middle of who plays is in.
    fn tile_of_player(&self) -> (i32, i32) {
        let lines = self.desk.level().grid.grid_lines();
        let body = self.desk.numbers.file().tuning.body();
        let feet = self.desk.player.play().report().feet;
        (lines.last_at_or_before(feet.x, 0.0), lines.last_at_or_before(feet.y - body.height / 2.0, 0.0))
    }

    fn use_tool_at_tile(&mut self) {
        let Some((column, row)) = self.tile.filter(|_| self.tool != Tool::Hand) else { return };
        let cell = self.desk.level().grid.grid_lines().cell(column, row);
        let feet = DVec2::new(f64::midpoint(cell.left, cell.right), cell.bottom);
        match self.tool {
            Tool::Hand => {}
            Tool::Place => self.desk.restart_at(feet),
            Tool::Paint(letter) => self.paint(column, row, letter, false),
        }
    }

    fn zoom(&mut self, by: f64) {
        if let Some(sight) = self.seen {
            self.look.zoom(&sight, by, sight.area.center());
        }
    }

    fn step(&mut self) {
        self.desk.player.runs = false;
        self.desk.player.step();
    }

    fn go_by(&mut self, ticks: i64) {
        let tick = self.desk.player.tick_now().saturating_add_signed(ticks);
        self.desk.player.look_at(tick);
    }

    fn show_level(&mut self, ui: &mut Ui, colours: &Colours) {
        let (area, response) = ui.allocate_exact_size(ui.available_size(), Sense::click_and_drag());
        let followed = self.desk.player.play().report().feet;
        let sight = self.look.sight(area, self.desk.level(), followed);
        let response = response.on_hover_cursor(match self.tool {
            Tool::Hand => egui::CursorIcon::Grab,
            _ => egui::CursorIcon::Crosshair,
        });
        if response.hovered() {
            let (scroll, pointer) = ui.input(|input| {
                (input.smooth_scroll_delta().y + (input.zoom_delta() - 1.0) * 300.0, input.pointer.hover_pos())
            });
            if let Some(pointer) = pointer.filter(|_| scroll != 0.0) {
                self.look.zoom(&sight, (f64::from(scroll) * 0.003).exp(), pointer);
            }
        }
        let pans = response.dragged_by(PointerButton::Middle)
            || (self.tool == Tool::Hand && response.dragged_by(PointerButton::Primary));
        if pans {
            self.look.pan(&sight, response.drag_delta());
        }
        if response.double_clicked() && self.tool == Tool::Hand {
            self.look.follow();
        }
        if let Some(pointer) = response.interact_pointer_pos() {
            self.use_tool(&response, sight.to_level(pointer));
        }
        if !response.is_pointer_button_down_on() {
            self.paints = false;
        }
        let sight = self.look.sight(area, self.desk.level(), self.desk.player.play().report().feet);
        self.pointer = response.hover_pos().map(|pointer| sight.to_level(pointer));
        let canvas = Canvas { painter: &ui.painter_at(area), sight, colours: *colours, shows: self.shows };
        canvas.draw(&self.desk);
        if let Some(ways) = &self.desk.ways {
            canvas.draw_ways(ways, self.pointer, self.desk.numbers.file().scale.tile);
        }
        if let Some((column, row)) = self.tile.filter(|_| self.tool != Tool::Hand) {
            canvas.draw_tile_in_hand(&self.desk.level().grid.grid_lines().cell(column, row));
        }
        self.seen = Some(sight);
        self.write_over(&canvas, colours);
        response.widget_info(|| egui::WidgetInfo::labeled(egui::Role::Canvas, true, "The level"));
    }

    /// What is written over the level: what it does now, how the try again differs, how a round stands.
    fn write_over(&self, canvas: &Canvas<'_>, colours: &Colours) {
        let player = &self.desk.player;
        let (report, tile) = (player.play().report(), self.desk.numbers.file().scale.tile);
        let speed = |along: f64| format!("{:.2}", along / tile);
        let now = format!(
            "tick {}  {}  speed {} along, {} up tiles/s",
            player.tick_now(),
            report.state,
            speed(report.velocity.x),
            speed(-report.velocity.y + 0.0)
        );
        canvas.write(0, &now, colours.ink);
        let mut line = 1;
        if let Some(round) = player.play().round() {
            let mut words = format!("attempt {}  picked {}", round.attempt(), round.picked());
            if let Some(health) = round.health() {
                words += &format!("  health {health}");
            }
            if let Some(lives) = round.lives() {
                words += &format!("  lives {lives}");
            }
            canvas.write(line, &words, colours.ink);
            line += 1;
        }
        if let Some(again) = &self.desk.again {
            canvas.write(line, &again.words(tile), colours.plum);
            line += 1;
        }
        if let Some(ways) = &self.desk.ways {
            canvas.write(line, &ways.words(), colours.ink);
        }
        if player.is_over() {
            let finished = player.play().round().is_some_and(wumple::Round::is_finished);
            canvas.announce(if finished { "Finished. R starts again" } else { "Over. R starts again" });
        }
    }

    fn use_tool(&mut self, response: &egui::Response, place: DVec2) {
        match self.tool {
            Tool::Hand => {
                if response.clicked() {
                    self.desk.play_way_to(place);
                }
            }
            Tool::Place => {
                if response.clicked() {
                    self.desk.restart_at(place);
                }
            }
            Tool::Paint(letter) => {
                let lines = self.desk.level().grid.grid_lines();
                let (column, row) = (lines.last_at_or_before(place.x, 0.0), lines.last_at_or_before(place.y, 0.0));
                let is_down = response.is_pointer_button_down_on() || response.clicked();
                if !is_down {
                    return;
                }
                self.paint(column, row, letter, self.paints);
            }
        }
    }

    /// Paints a tile. `goes_on`: as a part of the stroke before.
    fn paint(&mut self, column: i32, row: i32, letter: char, goes_on: bool) {
        match self.desk.paint(column, row, letter, goes_on) {
            Ok(is_other) => self.paints |= is_other,
            Err(why) => self.desk.complain(why),
        }
    }

    fn show_time(&mut self, ui: &mut Ui, colours: &Colours) {
        let player = &mut self.desk.player;
        // When time stands, the reasons of the round and the view stand beside those of the motion.
        if !player.runs || player.is_over() {
            player.complete_log(self.desk.room.level());
        }
        let (desk, time) = (&self.desk, &mut self.time);
        let gone_to = ui.with_layout(Layout::right_to_left(Align::Min), |ui| {
            let height = ui.available_height();
            let why = ui.allocate_ui_with_layout(egui::vec2(WHY_WIDTH, height), Layout::top_down(Align::Min), |ui| {
                timeline::show_why(ui, desk.player.tick_now(), desk.player.log(), colours)
            });
            let rest = egui::vec2(ui.available_width(), height);
            let gone_to = ui.allocate_ui_with_layout(rest, Layout::top_down(Align::Min), |ui| {
                ui.spacing_mut().item_spacing.y = 0.0;
                timeline::show(ui, time, desk, colours)
            });
            why.inner.or(gone_to.inner)
        });
        if let Some(tick) = gone_to.inner {
            self.desk.player.look_at(tick);
        }
    }

    /// What is not kept is asked about before the window closes.
    fn mind_closing(&mut self, ctx: &Context) {
        if ctx.input(|input| input.viewport().close_requested()) && self.desk.is_unkept() && !self.is_closed {
            ctx.send_viewport_cmd(ViewportCommand::CancelClose);
            self.closes = true;
        }
        if !self.closes {
            return;
        }
        Modal::new(egui::Id::unique("close")).show(ctx, |ui| {
            ui.heading("Not everything is kept");
            ui.label("There are numbers, or painted letters, that are in no file yet.");
            ui.horizontal(|ui| {
                if ui.button("Keep and close").clicked() {
                    self.desk.keep_all();
                    self.closes = false;
                    if !self.desk.is_unkept() {
                        self.close(ctx);
                    }
                }
                if ui.button("Close without keeping").clicked() {
                    self.close(ctx);
                }
                if ui.button("Stay").clicked() {
                    self.closes = false;
                }
            });
        });
    }

    fn close(&mut self, ctx: &Context) {
        self.is_closed = true;
        ctx.send_viewport_cmd(ViewportCommand::Close);
    }
}

/// With what it says when the pointer rests on it, also while it does nothing.
fn told(response: Response, tip: impl Into<String>) -> Response {
    let tip = tip.into();
    response.on_hover_text(&tip).on_disabled_hover_text(tip)
}

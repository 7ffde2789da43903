//! The program: what is opened, the window of the system, files that change, a gamepad.

use std::cell::RefCell;
use std::path::{Path, PathBuf};
use std::rc::Rc;
use std::sync::mpsc::{Receiver, channel};

use anyhow::{Context, anyhow};
use clap::Parser;
use eframe::egui;
use notify::Watcher;
use wumple_window::desk::demo_rooms;
use wumple_window::view::Watch;
use wumple_window::{Desk, Source, Window};

#[cfg(feature = "gamepad")]
mod gamepad;

/// Plays a level in a window, with the numbers beside it
///
/// Play with the arrows and Space; drag a number, and the last try goes again with it, beside how it went. Without a level the
/// Throwing room of the Kilnworks is opened.
#[derive(Parser)]
#[command(version, about)]
struct Arguments {
    /// The level (*.level.toml)
    level: Option<PathBuf>,
    /// How the character moves (*.tuning.toml) [default: the only one beside the level]
    #[arg(long, value_name = "FILE")]
    tuning: Option<PathBuf>,
    /// What is held to begin with (*.buttons); it is played to its end
    #[arg(long, value_name = "FILE")]
    buttons: Option<PathBuf>,
    /// Dark colours
    #[arg(long)]
    dark: bool,
    /// Play for so many seconds, print how long frames took, and close
    #[arg(long, value_name = "SECONDS", value_parser = clap::value_parser!(u32).range(1..=3600))]
    measure: Option<u32>,
    /// The window's width and height
    #[arg(long, value_name = "WxH", default_value = "1280x800", value_parser = size)]
    size: (f32, f32),
}

fn size(words: &str) -> Result<(f32, f32), String> {
    let sides = words.split_once('x').and_then(|(width, height)| Some((width.parse().ok()?, height.parse().ok()?)));
    sides
        .filter(|(width, height)| (400.0..=8000.0).contains(width) && (300.0..=8000.0).contains(height))
        .ok_or_else(|| "it must be a width from 400 and a height from 300 to 8000, such as 1280x800".to_owned())
}

fn main() -> anyhow::Result<()> {
    let arguments = Arguments::parse();
    let (level, tuning) = sources(&arguments)?;
    let mut desk = Desk::open(&level, &tuning).map_err(|why| anyhow!(why))?;
    if let Some(path) = &arguments.buttons {
        let text = wumple::files::read_text(path)?;
        desk.play_buttons(&path.display().to_string(), &text);
    }
    let viewport = egui::ViewportBuilder::default()
        .with_title("Wumple")
        .with_inner_size([arguments.size.0, arguments.size.1])
        .with_min_inner_size([800.0, 560.0]);
    let options = eframe::NativeOptions { viewport, ..Default::default() };
    let dark = arguments.dark;
    let frames = Frames::default();
    let (measured, seconds) = (frames.clone(), arguments.measure);
    let started = eframe::run_native(
        "wumple-window",
        options,
        Box::new(move |creation| {
            let mut window = Window::new(desk);
            window.dark = dark;
            let (changes, watch) = watch(creation.egui_ctx.clone())?;
            window.hear_changes(changes, watch);
            #[cfg(feature = "gamepad")]
            window.ask_pad(gamepad::pad());
            Ok(Box::new(App { window, frames: measured, measure: seconds.map(f64::from) }))
        }),
    );
    started.map_err(|error| anyhow!("no window can be opened: {error}"))?;
    if arguments.measure.is_some() {
        println!("{}", frames.words());
    }
    Ok(())
}

/// How long frames took, each from its beginning to that of the next, s.
#[derive(Clone, Default)]
struct Frames(Rc<RefCell<Vec<f64>>>);

impl Frames {
    fn words(&self) -> String {
        let mut all = self.0.borrow().clone();
        // The first are those in which everything is made.
        all.drain(..all.len().min(20));
        all.sort_by(f64::total_cmp);
        let at = |share: f64| all.get(((all.len() as f64 - 1.0) * share) as usize).copied().unwrap_or(0.0) * 1e3;
        let mean = all.iter().sum::<f64>() / all.len().max(1) as f64;
        format!(
            "{} frames, {:.1} a second; a frame {:.1} ms, 95 of 100 within {:.1} ms, the longest {:.1} ms",
            all.len(),
            1.0 / mean.max(1e-9),
            at(0.5),
            at(0.95),
            at(1.0)
        )
    }
}

/// The level and the tuning that are opened.
fn sources(arguments: &Arguments) -> anyhow::Result<(Source, Source)> {
    let Some(level) = &arguments.level else {
        let (_, _, level, tuning) = demo_rooms().swap_remove(0);
        let tuning = arguments.tuning.as_deref().map_or(Ok(tuning), Source::file)?;
        return Ok((level, tuning));
    };
    let tuning = match &arguments.tuning {
        Some(tuning) => tuning.clone(),
        None => only_tuning_beside(level)?,
    };
    Ok((Source::file(level)?, Source::file(&tuning)?))
}

fn only_tuning_beside(level: &Path) -> anyhow::Result<PathBuf> {
    let folder = level.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let entries = std::fs::read_dir(folder).with_context(|| format!("{} cannot be read", folder.display()))?;
    let is_tuning = |path: &PathBuf| path.to_string_lossy().ends_with(".tuning.toml");
    let mut found = entries.filter_map(|entry| Some(entry.ok()?.path())).filter(is_tuning);
    match (found.next(), found.next()) {
        (Some(only), None) => Ok(only),
        (None, _) => Err(anyhow!("{} has no *.tuning.toml; say which with --tuning", folder.display())),
        (Some(_), Some(_)) => Err(anyhow!("{} has several *.tuning.toml; say which with --tuning", folder.display())),
    }
}

/// Tells of files that change. Their folders are watched, since an editor may put another file in the place of one. What is given back
/// with the changes says which files those are.
fn watch(ctx: egui::Context) -> notify::Result<(Receiver<PathBuf>, Watch)> {
    let (tell, changes) = channel();
    let mut watcher = notify::recommended_watcher(move |event: notify::Result<notify::Event>| {
        let Ok(event) = event else { return };
        if matches!(event.kind, notify::EventKind::Access(_)) {
            return;
        }
        for path in event.paths {
            // The window is gone: so is who listens.
            let _ = tell.send(path);
        }
        ctx.request_repaint();
    })?;
    let mut folders: Vec<PathBuf> = Vec::new();
    let watch = move |files: &[PathBuf]| {
        let folder_of = |file: &PathBuf| std::path::absolute(file).ok()?.parent().map(Path::to_owned);
        for folder in files.iter().filter_map(folder_of) {
            // One that cannot be watched is one whose changes are not told of.
            if !folders.contains(&folder) && watcher.watch(&folder, notify::RecursiveMode::NonRecursive).is_ok() {
                folders.push(folder);
            }
        }
    };
    Ok((changes, Box::new(watch)))
}

struct App {
    window: Window,
    frames: Frames,
    /// It closes after so many seconds.
    measure: Option<f64>,
}

impl eframe::App for App {
    fn ui(&mut self, ui: &mut egui::Ui, _: &mut eframe::Frame) {
        self.window.ui(ui);
        let Some(seconds) = self.measure else { return };
        let ctx = ui.ctx();
        let (frame, time) = ctx.input(|input| (f64::from(input.unstable_dt), input.time));
        self.frames.0.borrow_mut().push(frame);
        ctx.request_repaint();
        if time > seconds {
            ctx.send_viewport_cmd(egui::ViewportCommand::Close);
        }
    }
}

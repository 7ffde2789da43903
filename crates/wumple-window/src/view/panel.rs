//! The panel of numbers: by section, as sliders and fields, with what they do.

use eframe::egui::{
    Align, Button, CollapsingHeader, ComboBox, DragValue, Label, Layout, Response, RichText, ScrollArea, Slider,
    SliderClamping, TextEdit, Ui, vec2,
};
use wumple::numbers::{Acceleration, Bounds, Key, KeyDefault, KeyKind};
use wumple::units::{Quantity, short};

use super::colours::Colours;
use super::{others, told};
use crate::desk::{ABILITIES, Ability, Numbers, RELEASES, Units, Value};

/// How the panel is looked at.
#[derive(Clone, Debug, Default)]
pub struct PanelState {
    /// Only keys with this in their name are shown.
    pub search: String,
    /// In which units.
    pub units: Units,
}

/// The sections in the order in which they are shown, each with what it is about.
const SECTIONS: [(&str, &str); 22] = [
    ("body", "the hitbox"),
    ("run", "on the ground"),
    ("air", "steering in the air"),
    ("fall", "gravity"),
    ("jump", "jumps"),
    ("jump.release", "when the button is let go"),
    ("jump.air_jump_release", "the same of air jumps"),
    ("jump.hang", "about the top of a jump"),
    ("wall", "walls"),
    ("wall.slide", "sliding down"),
    ("wall.jump", "jumping off"),
    ("wall.hold", "holding on"),
    ("ladder", "ladders"),
    ("flight", "flying"),
    ("four_way", "seen from above"),
    ("platform", "platforms"),
    ("feels", "how near zones are felt"),
    ("tick", "the loop"),
    ("scale", "what tiles and frames mean"),
    ("picture", "how large it is drawn"),
    ("pose", "which picture is shown when"),
    ("", "of the file"),
];

/// The sections that have no part in who is seen from above.
const WITH_GRAVITY: [&str; 3] = ["run", "air", "fall"];

/// Sections that are folded to begin with.
const FOLDED: [&str; 8] = ["platform", "feels", "tick", "body", "scale", "picture", "pose", ""];

/// How wide the names of keys are, points.
const NAME_WIDTH: f32 = 104.0;

impl PanelState {
    /// Whether a key is searched for.
    fn wants(&self, key: &str) -> bool {
        let plain = |words: &str| words.trim().to_lowercase().replace('_', " ");
        plain(key).contains(&plain(&self.search))
    }
}

/// Shows the numbers; changes them as they are dragged.
pub(crate) fn show(ui: &mut Ui, state: &mut PanelState, numbers: &mut Numbers, colours: &Colours) {
    ui.horizontal(|ui| {
        let label = ui.label("Search");
        let search = TextEdit::singleline(&mut state.search).desired_width(110.0).hint_text("coyote");
        ui.add(search).labelled_by(label.id).on_hover_text("shows the keys with this in their name");
        ComboBox::from_id_salt("units")
            .width(120.0)
            .selected_text(Units::ALL.iter().find(|(units, _)| *units == state.units).map_or("", |(_, name)| name))
            .show_ui(ui, |ui| {
                for (units, name) in Units::ALL {
                    ui.selectable_value(&mut state.units, units, name);
                }
            })
            .response
            .on_hover_text("in which units numbers are shown and written");
    });
    show_state(ui, numbers, colours);
    ui.separator();
    ScrollArea::vertical().auto_shrink([false, false]).show(ui, |ui| {
        let from_above = numbers.has("four_way");
        for (section, about) in SECTIONS {
            // What is not given there says nothing of who is seen from above.
            if from_above && WITH_GRAVITY.contains(&section) {
                continue;
            }
            show_section(ui, state, numbers, (section, about), colours);
        }
        show_abilities(ui, state, numbers);
    });
}

/// What is not kept yet, or wrong.
fn show_state(ui: &mut Ui, numbers: &mut Numbers, colours: &Colours) {
    if let Some(error) = numbers.error() {
        ui.label(RichText::new(error).color(colours.terracotta));
        ui.label(RichText::new("the last right numbers stay in force").weak());
        return;
    }
    let changed = numbers.changed();
    let words = match changed.len() {
        0 if numbers.is_unkept() => "not kept yet".to_owned(),
        0 => "as in the file".to_owned(),
        1 => format!("1 change not kept: {}", changed[0]),
        count => format!("{count} changes not kept"),
    };
    ui.label(RichText::new(words).weak()).on_hover_text(changed.join("\n"));
}

fn show_section(
    ui: &mut Ui,
    state: &PanelState,
    numbers: &mut Numbers,
    (section, about): (&str, &str),
    colours: &Colours,
) {
    let rows: Vec<(Key, Value)> =
        numbers.values().iter().filter(|(key, _)| key.parts().0 == section && state.wants(key.name)).cloned().collect();
    let others = others::of_section(numbers, section, |key| state.wants(key));
    if rows.is_empty() && others.is_empty() {
        return;
    }
    let head =
        RichText::new(if section.is_empty() { about.to_owned() } else { format!("{section}: {about}") }).strong();
    let is_open = !FOLDED.contains(&section) || !state.search.is_empty();
    CollapsingHeader::new(head).id_salt(section).default_open(is_open).show(ui, |ui| {
        for (key, value) in rows {
            show_row(ui, state, numbers, &key, &value, colours);
        }
        for key in RELEASES {
            if section == "jump" && state.wants(key) {
                others::show_release(ui, numbers, key, colours);
            }
        }
        for key in others {
            others::show(ui, numbers, &key, colours);
        }
        if ABILITIES.iter().any(|ability| ability.section == section) {
            let off = ui.button(format!("Switch {section} off"));
            if off.on_hover_text("takes the section out; switched on again it is what it was").clicked() {
                numbers.switch(section, false);
            }
        }
    });
}

fn show_abilities(ui: &mut Ui, state: &PanelState, numbers: &mut Numbers) {
    // Who is seen from above has none but its picture.
    let from_above = numbers.has("four_way");
    let is_missing = |ability: &&Ability| {
        let section = ability.section;
        !numbers.has(section) && state.wants(section) && !(from_above && section != "picture")
    };
    let missing: Vec<Ability> = ABILITIES.iter().filter(is_missing).copied().collect();
    if missing.is_empty() {
        return;
    }
    ui.add_space(8.0);
    ui.label(RichText::new("It cannot yet").strong());
    for Ability { section, what, .. } in missing {
        let needs_jump = section.starts_with("jump.") && !numbers.has("jump");
        let button = ui.add_enabled(!needs_jump, Button::new(format!("Switch {section} on")));
        let tip = if needs_jump { format!("{what}; it needs [jump]") } else { what.to_owned() };
        if told(button, tip).clicked() {
            numbers.switch(section, true);
        }
    }
}

fn show_row(ui: &mut Ui, state: &PanelState, numbers: &mut Numbers, key: &Key, value: &Value, colours: &Colours) {
    let unit = numbers.unit(key.name, key.kind, state.units);
    let tip = tip(numbers, key, unit);
    let name = key.parts().1.replace('_', " ");
    row(ui, numbers, key.name, &name, &tip, colours, |ui, numbers, label| match value {
        Value::Number(number) => show_number(ui, numbers, key, *number, unit, label),
        Value::Rate(rate) => show_rate(ui, state, numbers, key, *rate, label),
        Value::Count(count) => show_count(ui, numbers, key, *count, label),
        Value::Word(index, words) => show_word(ui, key, *index, words, label),
        Value::Switch(on) => {
            let mut now = *on;
            let response = ui.checkbox(&mut now, "");
            named(ui, response, label, key.name).changed().then(|| now.to_string())
        }
        Value::Unwritten => show_unwritten(ui, numbers, key),
    });
}

/// A key: its name, what it is changed with, and the way back to what is kept of it. What is changed with gives back what is to be
/// written.
pub(super) fn row(
    ui: &mut Ui,
    numbers: &mut Numbers,
    key: &str,
    name: &str,
    tip: &str,
    colours: &Colours,
    changed_with: impl FnOnce(&mut Ui, &mut Numbers, &Response) -> Option<String>,
) {
    ui.horizontal(|ui| {
        let differs = numbers.differs(key);
        let text = if differs { RichText::new(name).color(colours.plum).strong() } else { RichText::new(name) };
        let left = Layout::left_to_right(Align::Center).with_main_wrap(false);
        let label = ui.allocate_ui_with_layout(vec2(NAME_WIDTH, 20.0), left, |ui| {
            ui.set_min_width(NAME_WIDTH);
            ui.add(Label::new(text).truncate()).on_hover_text(tip)
        });
        if let Some(words) = changed_with(ui, numbers, &label.inner) {
            numbers.set(key, &words);
        }
        if differs && ui.small_button("reset").on_hover_text(format!("{key}: as in the file")).clicked() {
            numbers.reset(key);
        }
    })
    .response
    .on_hover_text(tip);
}

/// To who does not see the name beside it, a control is called by its whole key: `run.top_speed`.
pub(super) fn named(ui: &Ui, response: Response, label: &Response, key: &str) -> Response {
    let response = response.labelled_by(label.id);
    ui.ctx().accesskit_node_builder(response.id, |node| node.set_label(key));
    response
}

/// A slider over a sensible range, and a field that takes any number.
fn show_number(
    ui: &mut Ui,
    numbers: &mut Numbers,
    key: &Key,
    now: f64,
    unit: &str,
    label: &Response,
) -> Option<String> {
    let scale = numbers.file().scale;
    let (least, most) = numbers.range(key.name, key.kind, key.bounds);
    let shown = |number: f64| Quantity::value_in(number, unit, &scale);
    let mut value = shown(now);
    ui.spacing_mut().slider_width = 92.0;
    let response = ui.add(
        Slider::new(&mut value, shown(least)..=shown(most))
            .clamping(SliderClamping::Never)
            .max_decimals(3)
            .suffix(if unit.is_empty() { String::new() } else { format!(" {unit}") }),
    );
    let response = named(ui, response, label, key.name);
    // What was taken into the hand is let go: keys are for playing again.
    if response.drag_stopped() || response.lost_focus() {
        numbers.let_go();
        response.surrender_focus();
    }
    let words = if unit.is_empty() { short(value) } else { format!("{} {unit}", short(value)) };
    response.changed().then_some(words)
}

fn show_rate(
    ui: &mut Ui,
    state: &PanelState,
    numbers: &mut Numbers,
    key: &Key,
    now: Acceleration,
    label: &Response,
) -> Option<String> {
    let kinds = ["at once", "in a time", "by a rate"];
    let kind = match now {
        Acceleration::Instant => 0,
        Acceleration::Time(_) => 1,
        _ => 2,
    };
    let mut chosen = kind;
    ComboBox::from_id_salt(key.name).width(70.0).selected_text(kinds[kind]).show_ui(ui, |ui| {
        for (at, words) in kinds.iter().enumerate() {
            ui.selectable_value(&mut chosen, at, *words);
        }
    });
    if chosen != kind {
        return Some(["instant", "0.1 s", "60 tiles/s^2"][chosen].to_owned());
    }
    // As a key of that kind alone.
    let (kind, bounds, number) = match now {
        Acceleration::Time(seconds) => (KeyKind::Time, Bounds { most: 2.0, unit: "s", ..key.bounds }, seconds),
        Acceleration::Rate(rate) => (KeyKind::Acceleration, key.bounds, rate),
        _ => return None,
    };
    let unit = numbers.unit(key.name, kind, state.units);
    ui.spacing_mut().slider_width = 40.0;
    let scale = numbers.file().scale;
    let (least, most) = numbers.range(key.name, kind, bounds);
    let mut value = Quantity::value_in(number, unit, &scale);
    let (least, most) = (Quantity::value_in(least, unit, &scale), Quantity::value_in(most, unit, &scale));
    let field = DragValue::new(&mut value)
        .range(least..=most * 4.0)
        .speed(most / 300.0)
        .max_decimals(3)
        .suffix(format!(" {unit}"));
    let response = ui.add(field);
    let response = named(ui, response, label, key.name);
    if response.drag_stopped() || response.lost_focus() {
        numbers.let_go();
    }
    response.changed().then(|| format!("{} {unit}", short(value)))
}

fn show_count(ui: &mut Ui, numbers: &mut Numbers, key: &Key, now: u32, label: &Response) -> Option<String> {
    let (least, most) = numbers.range(key.name, key.kind, key.bounds);
    let mut value = now;
    let response = ui.add(Slider::new(&mut value, least.ceil() as u32..=most as u32).clamping(SliderClamping::Never));
    let response = named(ui, response, label, key.name);
    if response.drag_stopped() || response.lost_focus() {
        numbers.let_go();
        response.surrender_focus();
    }
    response.changed().then(|| value.to_string())
}

fn show_word(ui: &mut Ui, key: &Key, now: usize, words: &'static [&'static str], label: &Response) -> Option<String> {
    let mut chosen = now;
    let combo = ComboBox::from_id_salt(key.name).width(120.0).selected_text(words[now]).show_ui(ui, |ui| {
        for (at, word) in words.iter().enumerate() {
            ui.selectable_value(&mut chosen, at, *word);
        }
    });
    named(ui, combo.response, label, key.name);
    (chosen != now).then(|| words[chosen].to_owned())
}

/// A key that other keys speak for: it can be written.
fn show_unwritten(ui: &mut Ui, numbers: &Numbers, key: &Key) -> Option<String> {
    let as_what = match key.default {
        KeyDefault::As(what) if !what.is_empty() => what.replace('`', ""),
        KeyDefault::Number(number) if number.is_infinite() => "any".to_owned(),
        _ => "not set".to_owned(),
    };
    ui.label(RichText::new(as_what).weak());
    let (least, most) = numbers.range(key.name, key.kind, key.bounds);
    let unit = numbers.unit(key.name, key.kind, Units::Tiles);
    let first = match key.kind {
        KeyKind::RunRate => "0.1 s".to_owned(),
        _ => numbers.words_for((least + most) * 0.5, unit),
    };
    let set = ui.small_button("set").on_hover_text(format!("{}: begin with {first}", key.name));
    set.clicked().then_some(first)
}

/// What a key does, in its unit, with its range.
fn tip(numbers: &Numbers, key: &Key, unit: &str) -> String {
    let what = if key.what.is_empty() { key.name } else { key.what };
    let mut tip = format!("{}: {}", key.name, what.replace('`', ""));
    if key.kind == KeyKind::RunRate {
        tip += "\na time from rest to top speed, a rate, or at once";
    } else if !unit.is_empty() {
        let (least, most) = (key.bounds.least, key.bounds.most);
        let above = if key.bounds.above { "above" } else { "from" };
        tip += &format!("\nin {unit}; {above} {} to {}", numbers.words_for(least, unit), numbers.words_for(most, unit));
    }
    tip
}

//! The keys of a tuning that are none of motion, and what letting go of jump does.

use eframe::egui::{ComboBox, DragValue, TextEdit, Ui};
use wumple::units::{Quantity, short};

use super::colours::Colours;
use super::panel::{named, row};
use crate::desk::{Numbers, RELEASE_STYLES};

/// Keys that are shown though they are not written, each with its section and what it is then.
const UNWRITTEN: [(&str, &str, &str); 4] = [
    ("scale.tile", "", "16"),
    ("scale.frames_per_second", "", "60"),
    ("picture.right", "picture", "0"),
    ("picture.down", "picture", "0"),
];

/// Those of a section: of `""` the ones that are in none.
pub(super) fn of_section(numbers: &Numbers, section: &str, wanted: impl Fn(&str) -> bool) -> Vec<String> {
    let is_in = |key: &str| key.split_once('.').map_or("", |(section, _)| section) == section && wanted(key);
    let mut keys: Vec<String> = numbers.others().iter().filter(|key| is_in(key)).cloned().collect();
    for (key, within, _) in UNWRITTEN {
        let is_offered = is_in(key) && (within.is_empty() || numbers.has(within));
        if is_offered && !keys.iter().any(|other| other == key) {
            keys.push(key.to_owned());
        }
    }
    keys
}

/// Shows one of them.
pub(super) fn show(ui: &mut Ui, numbers: &mut Numbers, key: &str, colours: &Colours) {
    let unwritten = UNWRITTEN.iter().find(|(other, ..)| *other == key).map(|(.., words)| *words);
    let Some(words) = numbers.written(key).or(unwritten.map(str::to_owned)) else { return };
    let name = name_of(numbers, key);
    let tip = format!("{key}: {}", about(key));
    row(ui, numbers, key, &name, &tip, colours, |ui, numbers, label| match Quantity::parse(&words) {
        _ if words == "true" || words == "false" => {
            let mut now = words == "true";
            let response = ui.checkbox(&mut now, "");
            named(ui, response, label, key).changed().then(|| now.to_string())
        }
        Ok(quantity) if !key.ends_with("name") => {
            let unit = quantity.unit_name().unwrap_or("");
            let mut value = quantity.value;
            let (speed, decimals) = if is_whole(key) { (0.1, 0) } else { ((value.abs() * 0.01).max(0.02), 3) };
            let suffix = if unit.is_empty() { String::new() } else { format!(" {unit}") };
            let field = DragValue::new(&mut value).speed(speed).max_decimals(decimals).suffix(&suffix);
            let response = ui.add(field);
            let response = named(ui, response, label, key);
            if response.drag_stopped() || response.lost_focus() {
                numbers.let_go();
            }
            response.changed().then(|| format!("{}{suffix}", short(value)))
        }
        _ => {
            let mut typed = words.clone();
            let response = ui.add(TextEdit::singleline(&mut typed).desired_width(150.0));
            let response = named(ui, response, label, key);
            if response.lost_focus() {
                numbers.let_go();
            }
            response.changed().then_some(typed)
        }
    });
}

/// What letting go of jump does: its style. The style's own keys are a section.
pub(super) fn show_release(ui: &mut Ui, numbers: &mut Numbers, section: &str, colours: &Colours) {
    let is_first = section == "jump.release";
    if !is_first && numbers.written("jump.air_jumps").is_none_or(|count| count == "0") && !numbers.has(section) {
        return;
    }
    let (name, unwritten) = if is_first { ("let go", "none") } else { ("let go in the air", "as from the ground") };
    let tip = format!("{section}.style: what letting go of the button does to a rise");
    let style = numbers.release_style(section);
    row(ui, numbers, section, name, &tip, colours, |ui, numbers, label| {
        let mut chosen = style.clone();
        let shown = chosen.clone().unwrap_or_else(|| unwritten.to_owned());
        let combo = ComboBox::from_id_salt(section).width(120.0).selected_text(shown).show_ui(ui, |ui| {
            if !is_first {
                ui.selectable_value(&mut chosen, None, unwritten).on_hover_text("the style of jumps from the ground");
            }
            for style in RELEASE_STYLES {
                ui.selectable_value(&mut chosen, Some(style.name.to_owned()), style.name).on_hover_text(style.what);
            }
        });
        named(ui, combo.response, label, &format!("{section}.style"));
        if chosen != style {
            numbers.set_release_style(section, chosen.as_deref());
        }
        None
    });
}

fn is_whole(key: &str) -> bool {
    key.starts_with("pose.") && key.ends_with(".pictures")
}

/// What it is called beside its field: of a pose, with the pose's name.
fn name_of(numbers: &Numbers, key: &str) -> String {
    let parts: Vec<&str> = key.split('.').collect();
    let words = match &parts[..] {
        ["pose", place, rest @ ..] => {
            let pose = numbers.written(&format!("pose.{place}.name")).unwrap_or_default();
            format!("{pose}: {}", rest.join(" "))
        }
        [_, rest @ ..] if !rest.is_empty() => rest.join(" "),
        _ => key.to_owned(),
    };
    words.replace('_', " ")
}

/// What it says, with its unit and range.
fn about(key: &str) -> &'static str {
    let parts: Vec<&str> = key.split('.').collect();
    match &parts[..] {
        ["name"] => "the character's name",
        ["group"] => "the group that the body is in: who meets whom",
        ["scale", "tile"] => "what \"tiles\" means, px; from 1 to 4096",
        ["scale", "frames_per_second"] => "what \"frames\" means; from 1 to 10,000",
        ["picture", "width" | "height"] => "how large it is drawn, px or tiles; above 0",
        ["picture", _] => "where the middle of its bottom edge is, from the feet, px or tiles",
        ["feels", ..] => "how much larger than the hitbox such zones are felt, px; from -256 to 256",
        ["pose", _, "name"] => "what the pose is called",
        ["pose", _, "pictures"] => "how many pictures it has, over and over; from 1 to 1000",
        ["pose", _, "pace"] => "pictures a second; above 0",
        ["pose", _, "stride"] => "how far it goes by itself for the next picture, px or tiles; above 0",
        ["pose", _, "when", ..] => "it is shown only when this is so",
        _ => "as in the file",
    }
}

//! The colours of the figures, for paper and for the dark.

use eframe::egui::{Color32, Stroke, Visuals};
use wumple::{State, ZoneKind};

/// What things are drawn with.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Colours {
    pub(crate) paper: Color32,
    pub(crate) panel: Color32,
    pub(crate) ink: Color32,
    pub(crate) smoke: Color32,
    pub(crate) solid: Color32,
    pub(crate) grid: Color32,
    pub(crate) terracotta: Color32,
    pub(crate) cobalt: Color32,
    pub(crate) celadon: Color32,
    pub(crate) ochre: Color32,
    pub(crate) plum: Color32,
}

const LIGHT: Colours = Colours {
    paper: Color32::from_rgb(0xFB, 0xF9, 0xF4),
    panel: Color32::from_rgb(0xF1, 0xEE, 0xE6),
    ink: Color32::from_rgb(0x22, 0x26, 0x2B),
    smoke: Color32::from_rgb(0x6E, 0x73, 0x78),
    solid: Color32::from_rgb(0xC2, 0xC4, 0xC4),
    grid: Color32::from_rgb(0xE4, 0xE1, 0xDA),
    terracotta: Color32::from_rgb(0xB5, 0x48, 0x2A),
    cobalt: Color32::from_rgb(0x2B, 0x4C, 0x8C),
    celadon: Color32::from_rgb(0x3B, 0x8A, 0x70),
    ochre: Color32::from_rgb(0xB8, 0x7A, 0x10),
    plum: Color32::from_rgb(0x8A, 0x3A, 0x63),
};

const DARK: Colours = Colours {
    paper: Color32::from_rgb(0x1B, 0x1E, 0x22),
    panel: Color32::from_rgb(0x24, 0x28, 0x2D),
    ink: Color32::from_rgb(0xE9, 0xE6, 0xDF),
    smoke: Color32::from_rgb(0x9A, 0xA0, 0xA6),
    solid: Color32::from_rgb(0x45, 0x4A, 0x50),
    grid: Color32::from_rgb(0x2A, 0x2E, 0x33),
    terracotta: Color32::from_rgb(0xE0, 0x7A, 0x58),
    cobalt: Color32::from_rgb(0x7F, 0xA3, 0xE6),
    celadon: Color32::from_rgb(0x6F, 0xC4, 0xA6),
    ochre: Color32::from_rgb(0xE2, 0xAE, 0x4E),
    plum: Color32::from_rgb(0xD5, 0x83, 0xB2),
};

impl Colours {
    pub(crate) fn of(dark: bool) -> Colours {
        if dark { DARK } else { LIGHT }
    }

    pub(crate) fn of_state(&self, state: State) -> Color32 {
        match state {
            State::Stand => self.ink,
            State::Run | State::Fly => self.celadon,
            State::Rise => self.cobalt,
            State::Fall => self.terracotta,
            State::WallSlide | State::WallHold => self.ochre,
            State::Ladder => self.plum,
            _ => self.smoke,
        }
    }

    pub(crate) fn of_zone(&self, kind: ZoneKind) -> Color32 {
        match kind {
            ZoneKind::Hazard => self.terracotta,
            ZoneKind::Pickup => self.ochre,
            ZoneKind::Goal => self.celadon,
            ZoneKind::Checkpoint => self.cobalt,
            _ => self.smoke,
        }
    }

    /// How the parts of the window look.
    pub(crate) fn visuals(dark: bool) -> Visuals {
        let colours = Colours::of(dark);
        let mut visuals = if dark { Visuals::dark() } else { Visuals::light() };
        visuals.panel_fill = colours.panel;
        visuals.window_fill = colours.panel;
        visuals.extreme_bg_color = colours.paper;
        visuals.override_text_color = Some(colours.ink);
        visuals.weak_text_color = Some(colours.smoke);
        visuals.hyperlink_color = colours.cobalt;
        visuals.error_fg_color = colours.terracotta;
        visuals.warn_fg_color = colours.ochre;
        // A box that is not ticked is seen, too.
        let outline = Stroke::new(1.0, colours.smoke.gamma_multiply(0.6));
        for widget in [&mut visuals.widgets.inactive, &mut visuals.widgets.open] {
            widget.bg_stroke = outline;
        }
        visuals.widgets.inactive.bg_fill = colours.paper;
        visuals.widgets.inactive.weak_bg_fill = colours.paper.lerp_to_gamma(colours.panel, 0.5);
        visuals.selection.bg_fill = colours.cobalt.gamma_multiply(if dark { 0.45 } else { 0.25 });
        visuals.selection.stroke = Stroke::new(1.0, colours.ink);
        visuals
    }
}

/// The same colour, fainter.
pub(crate) fn faint(colour: Color32, share: f32) -> Color32 {
    colour.gamma_multiply(share)
}

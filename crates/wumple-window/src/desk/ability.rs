//! What a character can or cannot do, and what letting go of jump does: sections of its tuning that are put in and taken out.

/// Something that a character can or cannot do, or that is told of it: a section of its tuning.
#[derive(Clone, Copy, Debug)]
pub struct Ability {
    /// The section.
    pub section: &'static str,
    /// What it is, in a few words.
    pub what: &'static str,
    /// What the section says where it was never there.
    pub(super) usual: &'static [(&'static str, &'static str)],
}

/// The sections that are switched on and off.
pub const ABILITIES: [Ability; 8] = [
    Ability { section: "jump", what: "jump", usual: &[("height", "3 tiles"), ("time_to_apex", "0.36 s")] },
    Ability {
        section: "jump.hang",
        what: "hang at the top of a jump",
        usual: &[("speed", "1.5 tiles/s"), ("gravity_ratio", "0.5")],
    },
    Ability {
        section: "wall.slide",
        what: "slide down walls",
        usual: &[("when", "pushed"), ("top_speed", "4 tiles/s")],
    },
    Ability {
        section: "wall.jump",
        what: "jump off walls",
        usual: &[("height", "2.5 tiles"), ("push_speed", "7 tiles/s"), ("steer_lock", "0.15 s")],
    },
    Ability {
        section: "wall.hold",
        what: "hold on to walls",
        usual: &[("when", "grab-held"), ("up_speed", "3 tiles/s"), ("down_speed", "4 tiles/s")],
    },
    Ability {
        section: "ladder",
        what: "climb ladders",
        usual: &[("up_speed", "4 tiles/s"), ("down_speed", "5 tiles/s")],
    },
    Ability { section: "flight", what: "fly by flaps", usual: &[("by", "flaps"), ("lift", "11 tiles/s")] },
    Ability {
        section: "picture",
        what: "be drawn as a picture of a size of its own",
        usual: &[("width", "1.5 tiles"), ("height", "2 tiles")],
    },
];

impl Ability {
    /// The one of this section.
    pub(super) fn of(section: &str) -> Option<&'static Ability> {
        ABILITIES.iter().find(|ability| ability.section == section)
    }
}

/// The sections that say what letting go of jump does.
pub const RELEASES: [&str; 2] = ["jump.release", "jump.air_jump_release"];

/// A style of such a section.
#[derive(Clone, Copy, Debug)]
pub struct ReleaseStyle {
    /// Its name, as it is written.
    pub name: &'static str,
    /// What it does, in a few words.
    pub what: &'static str,
    /// What the section says beside the style where it was never there.
    pub(super) usual: &'static [(&'static str, &'static str)],
}

/// All of them.
pub const RELEASE_STYLES: [ReleaseStyle; 5] = [
    ReleaseStyle { name: "none", what: "nothing: every jump goes to its full height", usual: &[] },
    ReleaseStyle { name: "cut", what: "a share of the upward speed is left", usual: &[("keep", "0.5")] },
    ReleaseStyle { name: "heavy", what: "more gravity while it still rises", usual: &[("gravity_ratio", "2.5")] },
    ReleaseStyle {
        name: "sustain",
        what: "the take-off speed is kept while the button is held, for a time",
        usual: &[("time", "0.2 s")],
    },
    ReleaseStyle {
        name: "to-height",
        what: "the rise goes on to the smallest hop",
        usual: &[("tap_height", "1 tiles")],
    },
];

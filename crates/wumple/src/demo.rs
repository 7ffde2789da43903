//! The Kilnworks, the demo data that comes with the library: made-up rooms of a pottery works, and Dab,
//! the apprentice who carries glaze jars through them. The files are in `demo/` of the repository.

/// Dab's tuning: running and jumping.
pub const DAB: &str = include_str!("../demo/dab.tuning.toml");

/// Dab with everything: walls, ladders, shelves, ramps, platforms.
pub const CLIMBING_DAB: &str = include_str!("../demo/climbing-dab.tuning.toml");

/// The Throwing room: a floor, steps, a gap, a low ceiling, a shaft.
pub const THROWING_ROOM: &str = include_str!("../demo/throwing-room.level.toml");

/// Buttons that run Dab through the Throwing room.
pub const THROWING_ROOM_BUTTONS: &str = include_str!("../demo/throwing-room.buttons");

/// Buttons that jump two ticks after an edge of the Throwing room was walked over.
pub const TOO_LATE_BUTTONS: &str = include_str!("../demo/too-late.buttons");

/// Dab's tuning half way: without the forgiving windows.
pub const QUICK_FALL: &str = include_str!("../demo/steps/3-fall.tuning.toml");

/// Trials of the demo: the names of their files, and their texts.
pub const TRIALS: [(&str, &str); 4] = [
    ("gap.trial.toml", include_str!("../demo/gap.trial.toml")),
    ("too-late.trial.toml", include_str!("../demo/too-late.trial.toml")),
    ("hoist-yard.trial.toml", include_str!("../demo/hoist-yard.trial.toml")),
    ("ember-gallery.trial.toml", include_str!("../demo/ember-gallery.trial.toml")),
];

/// Buttons through three rooms in order, from `jar-cellar` on.
pub const THREE_ROOMS_BUTTONS: &str = include_str!("../demo/three-rooms.buttons");

/// A recording of another game's character, of which only the places are known: whole pixels, frames missing.
pub const PRACTICE: &str = include_str!("../demo/practice.csv");

/// A room for one kind of motion, with buttons that lead Climbing Dab through it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Room {
    /// The name of its files: `chimney` for `chimney.level.toml` and `chimney.buttons`.
    pub name: &'static str,
    /// What it shows, in a few words.
    pub shows: &'static str,
    /// The text of its level file.
    pub level: &'static str,
    /// The text of its buttons file.
    pub buttons: &'static str,
}

/// The rooms for [`CLIMBING_DAB`].
pub const ROOMS: [Room; 12] = [
    Room {
        name: "chimney",
        shows: "walls: slide, jump off, hold, climb over",
        level: include_str!("../demo/chimney.level.toml"),
        buttons: include_str!("../demo/chimney.buttons"),
    },
    Room {
        name: "glaze-store",
        shows: "ladders: up, down, caught in the air, side by side",
        level: include_str!("../demo/glaze-store.level.toml"),
        buttons: include_str!("../demo/glaze-store.buttons"),
    },
    Room {
        name: "drying-racks",
        shows: "one-way shelves, drops, a kept press, steps",
        level: include_str!("../demo/drying-racks.level.toml"),
        buttons: include_str!("../demo/drying-racks.buttons"),
    },
    Room {
        name: "clay-heap",
        shows: "ramps of tiles, a drawn ramp, a jump from a slope",
        level: include_str!("../demo/clay-heap.level.toml"),
        buttons: include_str!("../demo/clay-heap.buttons"),
    },
    Room {
        name: "slip-floor",
        shows: "wet slip, a belt, bellows",
        level: include_str!("../demo/slip-floor.level.toml"),
        buttons: include_str!("../demo/slip-floor.buttons"),
    },
    Room {
        name: "hoist-yard",
        shows: "a cart, a hoist, a swing that goes round, a crate that rides",
        level: include_str!("../demo/hoist-yard.level.toml"),
        buttons: include_str!("../demo/hoist-yard.buttons"),
    },
    Room {
        name: "drying-loft",
        shows: "slabs that crumble, bellows and a belt that travel, a drop",
        level: include_str!("../demo/drying-loft.level.toml"),
        buttons: include_str!("../demo/drying-loft.buttons"),
    },
    Room {
        name: "ember-walk",
        shows: "zones: jars, embers, a lamp, a hot stove, the kiln door",
        level: include_str!("../demo/ember-walk.level.toml"),
        buttons: include_str!("../demo/ember-walk.buttons"),
    },
    Room {
        name: "jar-lift",
        shows: "groups: curtains for jars alone, a pan that a jar sets off",
        level: include_str!("../demo/jar-lift.level.toml"),
        buttons: include_str!("../demo/jar-lift.buttons"),
    },
    Room {
        name: "jar-cellar",
        shows: "a round: a door that wants three jars",
        level: include_str!("../demo/jar-cellar.level.toml"),
        buttons: include_str!("../demo/jar-cellar.buttons"),
    },
    Room {
        name: "ember-gallery",
        shows: "health and lives: embers, a stove, a pit, a lamp",
        level: include_str!("../demo/ember-gallery.level.toml"),
        buttons: include_str!("../demo/ember-gallery.buttons"),
    },
    Room {
        name: "kiln-hall",
        shows: "gates: bars for a poker, a grate for a rope, four jars at the door",
        level: include_str!("../demo/kiln-hall.level.toml"),
        buttons: include_str!("../demo/kiln-hall.buttons"),
    },
];

/// Another character than Dab, with a room of its own.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Other {
    /// The name of its file: `clay-ball` for `clay-ball.tuning.toml`.
    pub name: &'static str,
    /// The text of its tuning file.
    pub tuning: &'static str,
    /// Its room, and the buttons that lead it through.
    pub room: Room,
}

/// The other characters, each with a motion of its own.
pub const OTHERS: [Other; 5] = [
    Other {
        name: "clay-ball",
        tuning: include_str!("../demo/clay-ball.tuning.toml"),
        room: Room {
            name: "flue",
            shows: "springs up on every landing, by itself",
            level: include_str!("../demo/flue.level.toml"),
            buttons: include_str!("../demo/flue.buttons"),
        },
    },
    Other {
        name: "barrow",
        tuning: include_str!("../demo/barrow.tuning.toml"),
        room: Room {
            name: "barrow-run",
            shows: "runs by itself, turns at walls; one jump",
            level: include_str!("../demo/barrow-run.level.toml"),
            buttons: include_str!("../demo/barrow-run.buttons"),
        },
    },
    Other {
        name: "ash-owl",
        tuning: include_str!("../demo/ash-owl.tuning.toml"),
        room: Room {
            name: "ash-loft",
            shows: "flaps, each press of jump",
            level: include_str!("../demo/ash-loft.level.toml"),
            buttons: include_str!("../demo/ash-loft.buttons"),
        },
    },
    Other {
        name: "bellows-boat",
        tuning: include_str!("../demo/bellows-boat.tuning.toml"),
        room: Room {
            name: "bellows-shaft",
            shows: "rises while jump is held, steers only then",
            level: include_str!("../demo/bellows-shaft.level.toml"),
            buttons: include_str!("../demo/bellows-shaft.buttons"),
        },
    },
    Other {
        name: "yard-dab",
        tuning: include_str!("../demo/yard-dab.tuning.toml"),
        room: Room {
            name: "works-yard",
            shows: "walks four ways, seen from above",
            level: include_str!("../demo/works-yard.level.toml"),
            buttons: include_str!("../demo/works-yard.buttons"),
        },
    },
];

/// Every file of the tour with its name.
#[must_use]
pub fn files() -> Vec<(String, &'static str)> {
    let single = [
        ("dab.tuning.toml", DAB),
        ("climbing-dab.tuning.toml", CLIMBING_DAB),
        ("throwing-room.level.toml", THROWING_ROOM),
        ("throwing-room.buttons", THROWING_ROOM_BUTTONS),
        ("too-late.buttons", TOO_LATE_BUTTONS),
        ("three-rooms.buttons", THREE_ROOMS_BUTTONS),
        ("steps/3-fall.tuning.toml", QUICK_FALL),
        ("practice.csv", PRACTICE),
    ];
    let others = OTHERS.iter().map(|other| (format!("{}.tuning.toml", other.name), other.tuning));
    let rooms = ROOMS.iter().chain(OTHERS.iter().map(|other| &other.room)).flat_map(|room| {
        [(format!("{}.level.toml", room.name), room.level), (format!("{}.buttons", room.name), room.buttons)]
    });
    single.into_iter().chain(TRIALS).map(|(name, text)| (name.to_owned(), text)).chain(others).chain(rooms).collect()
}

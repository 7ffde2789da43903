//! The Kilnworks, the demo data that comes with the library: made-up rooms of a pottery works, and Dab,
//! the apprentice who carries glaze jars through them. The files are in `demo/` of the repository.

/// Dab's tuning.
pub const DAB: &str = include_str!("../demo/dab.tuning.toml");

/// The Throwing room: a floor, steps, a gap, a low ceiling, a shaft.
pub const THROWING_ROOM: &str = include_str!("../demo/throwing-room.level.toml");

/// Buttons that run Dab through the Throwing room.
pub const THROWING_ROOM_BUTTONS: &str = include_str!("../demo/throwing-room.buttons");

/// Every file of the demo with its name.
pub const FILES: [(&str, &str); 3] = [
    ("dab.tuning.toml", DAB),
    ("throwing-room.level.toml", THROWING_ROOM),
    ("throwing-room.buttons", THROWING_ROOM_BUTTONS),
];

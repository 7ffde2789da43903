//! The Throwing room with Dab in it, for every test of what is open.

use std::path::Path;

use wumple::demo;
use wumple_window::{Desk, Source};

pub(crate) fn desk() -> Desk {
    let level = Source::of_demo("throwing-room.level.toml", demo::THROWING_ROOM);
    Desk::open(&level, &Source::of_demo("dab.tuning.toml", demo::DAB)).unwrap()
}

/// The same from files in a folder.
pub(crate) fn desk_in(folder: &Path) -> Desk {
    std::fs::write(folder.join("room.level.toml"), demo::THROWING_ROOM).unwrap();
    std::fs::write(folder.join("dab.tuning.toml"), demo::DAB).unwrap();
    let source = |name: &str| Source::file(&folder.join(name)).unwrap();
    Desk::open(&source("room.level.toml"), &source("dab.tuning.toml")).unwrap()
}

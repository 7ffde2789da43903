//! Where the things of a level stand in its file: for what is found out later.

use std::fmt;
use std::ops::Range;
use std::sync::Arc;

use wumple_core::ZoneOf;

use super::map::TilePlaces;
use super::objects::Objects;
use crate::files::diagnostic::{Diagnostic, Source};

/// Where each thing stands.
pub(crate) struct LevelPlaces {
    source: Arc<Source>,
    tiles: TilePlaces,
    blocks: Vec<Range<usize>>,
    ramps: Vec<Range<usize>>,
    platforms: Vec<Range<usize>>,
    props: Vec<Range<usize>>,
    zones: Vec<Range<usize>>,
    edges: Range<usize>,
    camera: Range<usize>,
}

impl LevelPlaces {
    /// `section` says where one of the file's sections stands.
    pub(super) fn new(
        source: &Arc<Source>,
        tiles: TilePlaces,
        objects: &Objects,
        section: impl Fn(&str) -> Range<usize>,
    ) -> LevelPlaces {
        LevelPlaces {
            source: source.clone(),
            tiles,
            blocks: objects.block_spans.clone(),
            ramps: objects.ramp_spans.clone(),
            platforms: objects.platform_spans.clone(),
            props: objects.prop_spans.clone(),
            zones: objects.zone_spans.clone(),
            edges: section("edges"),
            camera: section("camera"),
        }
    }

    fn at(&self, spans: &[Range<usize>], index: usize) -> Diagnostic {
        let span = spans.get(index).cloned().unwrap_or(0..0);
        Diagnostic::new(&self.source, span, String::new())
    }

    /// A tile, by its column and row.
    pub(crate) fn tile(&self, column: i32, row: i32) -> Diagnostic {
        self.tiles.place(&self.source, (column as usize, row as usize))
    }

    pub(crate) fn platform(&self, index: usize) -> Diagnostic {
        self.at(&self.platforms, index)
    }

    pub(crate) fn prop(&self, index: usize) -> Diagnostic {
        self.at(&self.props, index)
    }

    /// What a zone is of.
    pub(crate) fn zone(&self, of: ZoneOf) -> Diagnostic {
        match of {
            ZoneOf::Tile { column, row } => self.tile(column, row),
            ZoneOf::Block(index) => self.at(&self.blocks, index),
            ZoneOf::Ramp(index) => self.at(&self.ramps, index),
            ZoneOf::Platform(index) => self.platform(index),
            ZoneOf::Prop(index) => self.prop(index),
            ZoneOf::Drawn(index) => self.at(&self.zones, index),
            _ => self.file(),
        }
    }

    /// `[edges]`; the beginning of the file if there are none.
    pub(crate) fn edges(&self) -> Diagnostic {
        Diagnostic::new(&self.source, self.edges.clone(), String::new())
    }

    /// `[camera]`; the beginning of the file if there is none.
    pub(crate) fn camera(&self) -> Diagnostic {
        Diagnostic::new(&self.source, self.camera.clone(), String::new())
    }

    /// The file as a whole.
    pub(crate) fn file(&self) -> Diagnostic {
        Diagnostic::new(&self.source, 0..0, String::new())
    }
}

impl fmt::Debug for LevelPlaces {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("LevelPlaces").finish_non_exhaustive()
    }
}

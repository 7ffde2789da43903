use std::path::{Path, PathBuf};
use std::sync::Arc;

use toml_edit::Document;
use wumple_core::camera::{Camera, CameraNumbers};
use wumple_core::numbers::LIMIT_LENGTH;
use wumple_core::{
    Block, Character, CharacterId, DVec2, DrawnZone, Edge, Edges, Grid, GridError, Group, Hitbox, Meetings, Piece,
    PlatformNumbers, Platforms, Round, StartError, Surface, Terrain, TileProperties, Tuning, World, ZoneId, ZoneKind,
    ZoneOf,
};

pub(crate) mod beneath;
mod body;
mod camera;
mod groups;
mod map;
#[cfg(not(feature = "instruments"))]
mod not_read;
mod notes;
mod objects;
#[cfg(feature = "instruments")]
mod picture;
mod places;
mod rounds;
mod rules;
#[cfg(feature = "instruments")]
mod table;
mod zones;

use super::diagnostic::{Diagnostic, Diagnostics, Notes, is_harmful};
use super::disk::{FileError, read_text};
use super::fields::{Field, Fields, Value, words_of};
use super::group::{OF_GROUP, read_group};
use super::reader::{self, Section, is_another};
use super::tuning::{TuningFile, file_stem};
use crate::names::Names;
use crate::units::{Kind, Scale};
use beneath::Grounds;
use body::Body;
use camera::read_camera;
use groups::{falls_for_ever, no_ground, read_meetings, wrong_group};
use map::Map;
use notes::{LevelNotes, OF_NOTES, read_notes};
use objects::{MATERIAL, Objects, read_material};
use places::LevelPlaces;
use rounds::{Said, make_round, read_next, read_round};
use rules::{RULE, SaidRule};
use zones::{ZONE, read_zone};

pub use notes::{GameNotes, Note};
pub use objects::LevelProp;
pub use rounds::{LevelRound, NextLevel};

/// No map has more tiles: a wrong size in a file must not ask for all the memory there is.
const MOST_TILES: usize = 20_000_000;

/// A `*.level.toml` file: a map of letters, what they stand for, and what lies outside.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct Level {
    /// The level's name; the file's if it has none.
    pub name: String,
    /// The map.
    pub grid: Grid,
    /// What each letter of the map stands for; a tile of the grid is an index into these.
    pub letters: Vec<LetterKind>,
    /// The platforms over it.
    pub platforms: Vec<PlatformNumbers>,
    /// The props in it.
    pub props: Vec<LevelProp>,
    /// Who meets whom in it.
    pub meetings: Meetings,
    /// What blocks, platforms and props are called.
    pub names: Names,
    /// The CSV or PNG that its map was read from, if it is not in the level's file.
    pub map_file: Option<PathBuf>,
    /// What follows from what is met in it, if it has a `[round]`.
    pub round: Option<LevelRound>,
    /// What of it is seen, if it has a `[camera]`.
    pub camera: Option<CameraNumbers>,
    /// The level after it, if it says so.
    pub next: Option<NextLevel>,
    next_place: Diagnostic,
    /// The column and row of the spawn.
    pub spawn_tile: (usize, usize),
    spawn_place: Diagnostic,
    /// Where its things stand in the file.
    places: Arc<LevelPlaces>,
    /// Where `[meets]` stands in the file.
    meets_place: Diagnostic,
    /// The groups in which there is something to stand on.
    grounds: Vec<Group>,
    /// What the game wrote beside its things for itself.
    notes: LevelNotes,
    warnings: Vec<Diagnostic>,
}

static NO_NOTES: GameNotes = GameNotes::NONE;

/// A letter of a map.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct LetterKind {
    /// The letter.
    pub letter: char,
    /// What it stands for.
    pub properties: TileProperties,
    /// A colour of its own, as `#rrggbb`.
    pub colour: Option<String>,
    /// What the game wrote beside it for itself.
    pub notes: GameNotes,
    /// What it says for the round.
    rule: Option<SaidRule>,
}

impl LetterKind {
    /// Whether its tiles are a gate: gone once they have what they need.
    #[must_use]
    pub fn is_gate(&self) -> bool {
        self.rule.as_ref().is_some_and(SaidRule::is_gate)
    }
}

/// The letters that every level knows. `@` is the spawn, on an empty tile.
fn built_in(tile: f64) -> [(char, TileProperties); 11] {
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    [
        ('.', TileProperties::EMPTY),
        ('#', TileProperties::SOLID),
        ('=', TileProperties::ONE_WAY),
        ('H', TileProperties::LADDER),
        ('/', ramp(0.0, tile)),
        ('\\', ramp(tile, 0.0)),
        ('@', TileProperties::EMPTY),
        ('^', TileProperties::zone(ZoneKind::Hazard)),
        ('*', TileProperties::zone(ZoneKind::Pickup)),
        ('!', TileProperties::zone(ZoneKind::Goal)),
        ('+', TileProperties::zone(ZoneKind::Checkpoint)),
    ]
}

impl Level {
    /// Reads and checks a level file.
    ///
    /// # Errors
    ///
    /// If it cannot be read; if it is not UTF-8 or not TOML; all that is wrong with it, with the places. A CSV or PNG
    /// that its map names must be in its folder, or in one within that.
    pub fn read(path: &Path) -> Result<Level, FileError> {
        Ok(Level::parse(&path.display().to_string(), &read_text(path)?)?)
    }

    /// The same where the map may be anywhere in the folder `maps`, instead of the level's own.
    ///
    /// # Errors
    ///
    /// Like [`Level::read`].
    pub fn read_within(path: &Path, maps: &Path) -> Result<Level, FileError> {
        Ok(Level::parse_within(&path.display().to_string(), &read_text(path)?, maps)?)
    }

    /// Reads and checks the text of a level file; `name` is what messages call it, and the folder in it is
    /// where a CSV or a PNG that the map names is found.
    ///
    /// # Errors
    ///
    /// Like [`Level::read`].
    pub fn parse(name: &str, text: &str) -> Result<Level, Diagnostics> {
        Level::parse_within(name, text, Path::new(name).parent().unwrap_or(Path::new("")))
    }

    /// The same where the map may be anywhere in the folder `maps`, instead of the level's own.
    ///
    /// # Errors
    ///
    /// Like [`Level::read`].
    pub fn parse_within(name: &str, text: &str, maps: &Path) -> Result<Level, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let level = reader::parse(&mut notes).and_then(|document| read(&mut notes, &document, maps));
        notes.finish()?;
        let mut level = level.expect("no error was noted");
        if level.name.is_empty() {
            level.name = file_stem(name);
        }
        Ok(level)
    }

    /// Where a character starts: its feet at the middle of the spawn tile's bottom edge, px, y down.
    #[must_use]
    pub fn spawn(&self) -> DVec2 {
        let (column, row) = self.spawn_tile;
        let tile = self.grid.grid_lines().spacing();
        DVec2::new((column as f64 + 0.5) * tile, (row + 1) as f64 * tile)
    }

    /// Which kind of tile a letter is, for [`Grid::set_tile`]; `None` if the level does not know it.
    #[must_use]
    pub fn kind_of(&self, letter: char) -> Option<usize> {
        self.letters.iter().position(|kind| kind.letter == letter)
    }

    /// What the game wrote beside a part of the level for itself, `notes` in the file; of a tile, beside its letter. Empty where
    /// there is nothing, and of an edge.
    ///
    /// A tile is looked up in the level's own map. Of a map that the game changes, ask its kind:
    /// `level.letters[kind].notes`.
    ///
    /// ```
    /// # let text = "tile = 16\n[letters]\n\"*\" = { zone = \"pickup\", notes = { points = 5 } }\n[map]\nrows = '''\n@*\n##\n'''\n";
    /// let level = wumple::Level::parse("kiln", text)?;
    /// let pickup = wumple::Piece::Tile { column: 1, row: 0 };
    /// assert_eq!(level.notes_of(pickup).number("points"), Some(5.0));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn notes_of(&self, piece: Piece) -> &GameNotes {
        match piece {
            Piece::Tile { column, row } => self.notes_of_tile(column, row),
            Piece::Block(block) => self.notes.blocks.get(block),
            Piece::Ramp(ramp) => self.notes.ramps.get(ramp),
            Piece::Platform(platform) => self.notes.platforms.get(platform),
            Piece::Prop(prop) => self.notes.props.get(prop),
            _ => None,
        }
        .unwrap_or(&NO_NOTES)
    }

    /// The same of the zone that an event tells of.
    #[must_use]
    pub fn notes_of_zone(&self, zone: ZoneId) -> &GameNotes {
        match zone.of {
            ZoneOf::Tile { column, row } => self.notes_of(Piece::Tile { column, row }),
            ZoneOf::Block(block) => self.notes_of(Piece::Block(block)),
            ZoneOf::Ramp(ramp) => self.notes_of(Piece::Ramp(ramp)),
            ZoneOf::Platform(platform) => self.notes_of(Piece::Platform(platform)),
            ZoneOf::Prop(prop) => self.notes_of(Piece::Prop(prop)),
            ZoneOf::Drawn(zone) => self.notes.zones.get(zone).unwrap_or(&NO_NOTES),
            _ => &NO_NOTES,
        }
    }

    fn notes_of_tile(&self, column: i32, row: i32) -> Option<&GameNotes> {
        self.grid.has_tile(column, row).then(|| &self.letters[self.grid.kind(column, row)].notes)
    }

    /// A world with its platforms, its props, and one character of this tuning at the spawn.
    ///
    /// # Errors
    ///
    /// If the character does not fit there, or a prop where it is: with the place in the level's file. If the
    /// tuning moves by whole pixels, and something here is not of whole pixels.
    pub fn world(&self, tuning: &Tuning) -> Result<(World<&Grid>, CharacterId), Diagnostic> {
        self.world_over(&self.grid, tuning)
    }

    /// The same over another terrain than the level's own grid: a copy of it that the world owns and the game may change,
    /// as `level.world_over(level.grid.clone(), &tuning)`, or one of the game's own that looks the same.
    ///
    /// # Errors
    ///
    /// Like [`Level::world`].
    pub fn world_over<T: Terrain>(&self, terrain: T, tuning: &Tuning) -> Result<(World<T>, CharacterId), Diagnostic> {
        let mut world = self.world_without_character(terrain, tuning)?;
        match world.add_character(tuning.clone(), self.spawn()) {
            Ok(id) => Ok((world, id)),
            Err(error) => Err(self.spawn_place.with_message(self.spawn_message(error, tuning))),
        }
    }

    /// The round of a character in a world of this level, if the level has one: it begins now.
    ///
    /// ```
    /// # let text = "[round]\nhealth = 3\n[map]\nrows = '''\n@.!\n###\n'''\n";
    /// # let dab = wumple::TuningFile::parse("dab", wumple::demo::DAB)?;
    /// # let level = wumple::Level::parse("kiln", text)?;
    /// let (mut world, id) = level.world(&dab.tuning)?;
    /// let mut round = level.start_round(&world, id).ok_or("it has a [round]")?;
    /// while !round.is_over() {
    ///     world.tick(&[wumple::Buttons { right: true, ..wumple::Buttons::NONE }]);
    ///     round.play(&mut world, id);
    /// }
    /// assert!(round.is_finished());
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn start_round<T: Terrain>(&self, world: &World<T>, id: CharacterId) -> Option<Round> {
        self.round.as_ref().map(|round| Round::new(round.rules.clone(), world, id))
    }

    /// Its camera, if it has a `[camera]`, at the start of a character.
    #[must_use]
    pub fn start_camera(&self, character: &Character) -> Option<Camera> {
        let level = Hitbox { left: 0.0, right: self.grid.width(), top: 0.0, bottom: self.grid.height() };
        Camera::new(self.camera.as_ref()?, level, character, character.tuning().rate()).ok()
    }

    /// Where its things stand in the file.
    pub(crate) fn places(&self) -> &LevelPlaces {
        &self.places
    }

    /// Where the spawn stands in the file.
    pub(crate) fn spawn_place(&self) -> Diagnostic {
        self.spawn_place.clone()
    }

    /// All on which somebody can stand.
    pub(crate) fn grounds_to_stand_on(&self) -> Grounds<'_> {
        Grounds { grid: &self.grid, platforms: &self.platforms, props: &self.props }
    }

    /// Where `next` stands in the file, with a message.
    pub(crate) fn at_next(&self, message: String) -> Diagnostic {
        self.next_place.with_message(message)
    }

    /// The same with the character's feet at a place, px, y down; why not is said in words.
    pub(crate) fn world_from(&self, tuning: &Tuning, feet: DVec2) -> Result<(World<&Grid>, CharacterId), String> {
        let mut world = self.world_without_character(&self.grid, tuning).map_err(|error| error.message().to_owned())?;
        match world.add_character(tuning.clone(), feet) {
            Ok(id) => Ok((world, id)),
            Err(error) => Err(self.start_message(error)),
        }
    }

    /// A world with its platforms and props.
    fn world_without_character<T: Terrain>(&self, terrain: T, tuning: &Tuning) -> Result<World<T>, Diagnostic> {
        if let Some(why) = wrong_group(&self.meetings, &self.grounds, tuning) {
            return Err(self.meets_place.with_message(why));
        }
        let platforms = Platforms::new(&self.platforms, tuning.rate())
            .map_err(|error| self.spawn_place.with_message(error.to_string()))?;
        let mut world = World::with_platforms(terrain, platforms).with_meetings(self.meetings.clone());
        for (index, prop) in self.props.iter().enumerate() {
            let feet = prop.corner + DVec2::new(prop.size.x * 0.5, prop.size.y);
            let wrong = |message: String| {
                self.places.prop(index).with_message(format!("prop {}: {message}", self.names.props[index]))
            };
            let prop = prop.for_tuning(tuning).map_err(|errors| wrong(errors.to_string()))?;
            world.add_prop(prop, feet).map_err(|error| wrong(self.start_message(error)))?;
        }
        Ok(world)
    }

    fn spawn_message(&self, error: StartError, tuning: &Tuning) -> String {
        let (column, row) = self.spawn_tile;
        let body = tuning.body();
        let size = format!("the hitbox of {} x {} px", body.width, body.height);
        let spawn = format!("spawn at column {column}, row {row}");
        match error {
            StartError::InsideTile { column, row } => {
                format!("{spawn} is inside a solid tile: {size} overlaps the one at column {column}, row {row}")
            }
            StartError::BeyondEdge(side) => {
                format!("{spawn} is inside the solid {side} edge of the map: {size} reaches beyond it")
            }
            StartError::InsideBlock { block } => {
                format!("{spawn} is inside block {}: {size} overlaps it", self.names.blocks[block])
            }
            StartError::InsidePlatform { platform } => {
                format!("{spawn} is inside platform {}: {size} overlaps it", self.names.platforms[platform])
            }
            StartError::InsideProp { prop } => {
                format!("{spawn} is inside prop {}: {size} overlaps it", self.names.props[prop])
            }
            other => format!("{spawn}: {}", self.start_message(other)),
        }
    }

    /// Why a body cannot start, with the names of this level.
    fn start_message(&self, error: StartError) -> String {
        let inside = |what: &str, name: &str| format!("it would be inside {what} {name}");
        match error {
            StartError::InsideBlock { block } => inside("block", &self.names.blocks[block]),
            StartError::InsidePlatform { platform } => inside("platform", &self.names.platforms[platform]),
            StartError::InsideProp { prop } => inside("prop", &self.names.props[prop]),
            StartError::PlatformNotWhole { platform } => format!(
                "the sides of platform {} are not whole px; with pixels = \"whole\" they must be",
                self.names.platforms[platform]
            ),
            other => other.to_string(),
        }
    }

    /// What is odd about the level itself, though it is not wrong, with the places: things wholly outside the map,
    /// empty columns at the end of a CSV.
    #[must_use]
    pub fn warnings(&self) -> &[Diagnostic] {
        &self.warnings
    }

    /// What is odd about running this tuning here, though it is not wrong: tiles of another size.
    #[must_use]
    pub fn warning_for(&self, tuning: &TuningFile) -> Option<String> {
        let (here, there) = (self.grid.grid_lines().spacing(), tuning.scale.tile);
        (here != there).then(|| {
            let file = self.spawn_place.file();
            format!("{file}: a tile is {here} px here but {there} px in the tuning, where \"tiles\" are of {there} px")
        })
    }
}

/// The keys of a level.
pub(crate) const LEVEL: [Field; 14] = [
    Field::new("name", Value::Text, "its name, in tables and figures; the file's unless given"),
    Field::new("tile", Value::LENGTH, "the side of a tile, 1 to 4096 px; 16 px unless given"),
    Field::new("next", Value::TextLike("^none$|\\.toml$"), "the level after it; none: it is the last"),
    Field::new("edges", Value::Section(&[&EDGES]), "what lies outside the map"),
    Field::new("letters", Value::Named("^[^@\\s]$", &Value::Section(LETTER)), "what letters of the map stand for"),
    Field::new("map", Value::Section(&[&map::MAP]), "the tiles").needed(),
    Field::new("block", Value::Sections(objects::BLOCK), "a solid rectangle off the grid"),
    Field::new("ramp", Value::Sections(objects::RAMP), "ground along a line, from above"),
    Field::new("platform", Value::Sections(objects::PLATFORM), "it goes along a route, and carries"),
    Field::new("prop", Value::Sections(objects::PROP), "a body without buttons"),
    Field::new("zone", Value::Sections(zones::DRAWN), "a rectangle that is a zone and nothing else"),
    Field::new("meets", Value::Named("^[a-z0-9_-]{1,16}$", &Value::Texts), "which groups meet which"),
    Field::new("round", Value::Section(&[&rounds::ROUND]), "what follows from what is met"),
    Field::new("camera", Value::Section(&[&camera::CAMERA]), "what of the level is seen"),
];

const EDGES: [Field; 4] = [
    Field::new("left", EDGE, "solid unless given"),
    Field::new("right", EDGE, "solid unless given"),
    Field::new("top", EDGE, "open unless given"),
    Field::new("bottom", EDGE, "deadly unless given"),
];
const EDGE: Value = Value::Words(|| words_of(&Edge::NAMES));

/// The keys of a letter.
const LETTER: Fields = &[&OWN_OF_LETTER, &OF_RAMP, &MATERIAL, &ZONE, &RULE, &OF_NOTES, &OF_GROUP];
const OWN_OF_LETTER: [Field; 2] = [
    Field::new("surface", Value::Words(|| words_of(&SURFACES)), "what of the tile stops a body; empty unless given"),
    Field::new("colour", Value::COLOUR, "in figures"),
];
/// Those of ramps alone.
const OF_RAMP: [Field; 2] = [
    Field::new("left_height", Value::LENGTH, "of a ramp: its height above the tile's bottom edge at the left"),
    Field::new("right_height", Value::LENGTH, "of a ramp: the same at the right"),
];
/// Surfaces by their words; of a ramp, its heights are yet to be read.
const SURFACES: [(&str, Option<Surface>); 5] = [
    ("solid", Some(Surface::Solid)),
    ("one-way", Some(Surface::OneWay)),
    ("ladder", Some(Surface::Ladder)),
    ("ramp", None),
    ("empty", Some(Surface::Empty)),
];

fn read(notes: &mut Notes, document: &Document<String>, maps: &Path) -> Option<Level> {
    if is_another(notes, document, "a level") {
        return None;
    }
    let mut top = Section::top(document, Scale { tile: 16.0, frames_per_second: 60.0 });
    top.knows(notes, &[&LEVEL]);
    let name = top.title(notes, "Throwing room").unwrap_or_default();
    let tile = top.quantity(notes, "tile", Kind::Length).unwrap_or(16.0);
    if !(1.0..=4096.0).contains(&tile) {
        let message = format!("tile is {tile} px; a tile must be from 1 to 4096 px");
        notes.error(top.place_of("tile"), message);
    }
    top.set_scale(Scale { tile, frames_per_second: 60.0 });
    let edges = read_edges(notes, &top);
    let letters = read_letters(notes, &top, tile);
    let objects = Objects::read(notes, &top);
    let (meetings, meets_span) = read_meetings(notes, &top);
    let said_round = read_round(notes, &top);
    let camera = read_camera(notes, &top);
    let (next, next_place) = read_next(notes, &top);
    let mut map = Map::read(notes, &top, &letters, maps)?;
    let spawn = map.spawn(notes, &letters);
    let tiles = map.take_tiles(notes, &letters);
    let (spawn_tile, spawn_place) = spawn?;
    if notes.has_errors() {
        return None;
    }
    let kinds: Vec<TileProperties> = letters.iter().map(|kind| kind.properties).collect();
    let columns = map.columns();
    let grounds = objects.grounds(letters.iter().map(|kind| kind.properties));
    for (prop, span) in objects.props.iter().zip(&objects.prop_spans) {
        if falls_for_ever(&meetings, &grounds, prop.group) {
            notes.error(span.clone(), no_ground(prop.group));
        }
    }
    let mut odd = Notes::of_source(notes.source());
    let size = DVec2::new(columns as f64 * tile, (tiles.len() / columns) as f64 * tile);
    objects.note_outside(&mut odd, size);
    map.note_empty_columns(&mut odd);
    let warnings = odd.finish().err().map_or_else(Vec::new, Diagnostics::into_vec);
    let Objects { blocks, ramps, mut zones, ramp_zones, mut zone_spans, mut names, .. } = objects.clone();
    let Objects { platforms, props, block_spans, ramp_spans, .. } = &objects;
    // Those of ramps come after all that have a name.
    zone_spans.extend(ramp_zones.iter().map(|zone| ramp_spans[zone.ramp.unwrap_or_default()].clone()));
    zones.extend(ramp_zones);
    let zoned_blocks: Vec<usize> = (0..blocks.len()).filter(|block| blocks[*block].zone.is_some()).collect();
    names.kinds = own_kinds(&letters, &blocks, platforms, props, &zones);
    let grid = Grid::new(columns, tiles, tile, &kinds, edges)
        .and_then(|grid| grid.with_objects(blocks, ramps))
        .and_then(|grid| grid.with_zones(zones));
    match grid {
        Ok(grid) => {
            let said = Said { grid: &grid, letters: &letters, map: &map, objects: &objects };
            let round = make_round(notes, said_round, &said);
            if notes.has_errors() {
                return None;
            }
            let place = |span| Diagnostic::new(notes.source(), span, String::new());
            let map_file = map.file().map(Path::to_owned);
            let section = |name: &str| if top.has(name) { top.place_of(name) } else { 0..0 };
            let places = LevelPlaces::new(notes.source(), map.into_places(), &objects, section);
            Some(Level {
                name,
                grid,
                letters,
                platforms: objects.platforms,
                props: objects.props,
                names,
                map_file,
                round,
                camera,
                next,
                next_place,
                spawn_tile,
                spawn_place,
                places: Arc::new(places),
                meetings,
                meets_place: place(meets_span),
                grounds,
                notes: objects.notes,
                warnings,
            })
        }
        Err(error) => {
            let message = grid_message(&error);
            match error {
                GridError::BadBlock { block } => notes.error(block_spans[block].clone(), message),
                GridError::BadRamp { ramp } => notes.error(ramp_spans[ramp].clone(), message),
                GridError::BadZone { zone } => notes.error(zone_spans[zone].clone(), message),
                GridError::Crowded { what, object, .. } => {
                    let span = match (what, object.checked_sub(zoned_blocks.len())) {
                        ("blocks", _) => &block_spans[object],
                        // Zones are counted from those of blocks on.
                        ("zones", Some(zone)) => &zone_spans[zone],
                        ("zones", None) => &block_spans[zoned_blocks[object]],
                        _ => &ramp_spans[object],
                    };
                    notes.error(span.clone(), message);
                }
                _ => map.error(notes, (0, 0), message),
            }
            None
        }
    }
}

/// The kinds of zones that only this level knows.
fn own_kinds(
    letters: &[LetterKind],
    blocks: &[Block],
    platforms: &[PlatformNumbers],
    props: &[LevelProp],
    zones: &[DrawnZone],
) -> Vec<ZoneKind> {
    let of_letters = letters.iter().filter_map(|letter| letter.properties.zone);
    let of_things = blocks.iter().map(|of| of.zone).chain(platforms.iter().map(|of| of.zone));
    let of_things = of_things.chain(props.iter().map(|of| of.zone)).flatten();
    let all = of_letters.chain(of_things).chain(zones.iter().map(|of| of.zone));
    let mut kinds: Vec<ZoneKind> = all.map(|zone| zone.kind).filter(|kind| matches!(kind, ZoneKind::Own(_))).collect();
    kinds.sort_unstable();
    kinds.dedup();
    kinds
}

fn grid_message(error: &GridError) -> String {
    match error {
        GridError::TooLarge { pixels } => {
            format!("the map is {pixels} px long; it may be at most {LIMIT_LENGTH} px: fewer or smaller tiles")
        }
        other => other.to_string(),
    }
}

fn read_edges(notes: &mut Notes, top: &Section<'_>) -> Edges {
    let default = Edges::default();
    let Some(section) = top.section(notes, "edges") else { return default };
    section.knows(notes, &[&EDGES]);
    let mut edge = |key, default: Edge| section.word(notes, key, &Edge::NAMES).unwrap_or(default);
    Edges {
        left: edge("left", default.left),
        right: edge("right", default.right),
        top: edge("top", default.top),
        bottom: edge("bottom", default.bottom),
    }
}

/// The built-in letters, with those of the file added or put in their place.
fn read_letters(notes: &mut Notes, top: &Section<'_>, tile: f64) -> Vec<LetterKind> {
    let mut letters: Vec<LetterKind> = built_in(tile)
        .map(|(letter, properties)| LetterKind { letter, properties, colour: None, notes: GameNotes::NONE, rule: None })
        .into();
    let Some(section) = top.section(notes, "letters") else { return letters };
    for key in section.keys() {
        let mut characters = key.chars();
        let (Some(letter), None) = (characters.next(), characters.next()) else {
            let message = format!("\"{key}\" in [letters] is not one letter; a tile is one letter of the map");
            notes.error(section.place_of(key), message);
            continue;
        };
        if letter == '@' || letter.is_whitespace() || is_harmful(letter) {
            let message = format!(
                "\"{key}\" in [letters] cannot be changed; \"@\" is the spawn, and spaces and control characters are no tiles"
            );
            notes.error(section.place_of(key), message);
            continue;
        }
        let Some(kind) = section.section(notes, key) else { continue };
        let kind = read_letter(notes, &kind, letter, tile);
        match letters.iter_mut().find(|known| known.letter == letter) {
            Some(known) => *known = kind,
            None => letters.push(kind),
        }
    }
    if letters.len() > 256 {
        notes.error(section.span(), format!("there are {} letters; a level may have 256", letters.len()));
    }
    letters
}

fn read_letter(notes: &mut Notes, section: &Section<'_>, letter: char, tile: f64) -> LetterKind {
    let surface = match section.word(notes, "surface", &SURFACES) {
        Some(None) => {
            section.knows(notes, LETTER);
            let mut height = |key| read_ramp_height(notes, section, key, tile);
            Surface::Ramp { left_height: height("left_height"), right_height: height("right_height") }
        }
        plain => {
            section.knows(notes, &[&OWN_OF_LETTER, &MATERIAL, &ZONE, &RULE, &OF_NOTES, &OF_GROUP]);
            plain.flatten().unwrap_or(Surface::Empty)
        }
    };
    let body = match surface {
        Surface::Empty | Surface::Ladder => Body::None,
        Surface::Solid => Body::Solid,
        _ => Body::Top,
    };
    let (zone, rule) = read_zone(notes, section, body, DVec2::splat(tile));
    let colour = section.text(notes, "colour", "#9aa7a0").map(str::to_owned);
    if let Some(colour) = colour.as_deref().filter(|colour| !is_colour(colour)) {
        let message = format!("\"{colour}\" is no colour; it must be of the form \"#9aa7a0\"");
        notes.error(section.place_of("colour"), message);
    }
    let material = read_material(notes, section);
    let stands = !matches!(surface, Surface::Empty);
    for key in ["grip", "surface_speed", "bounce"].into_iter().filter(|key| !stands && section.has(key)) {
        let message = format!("{} is of no use: \"{letter}\" is empty, nothing stands on it", section.name_of(key));
        notes.error(section.place_of(key), message);
    }
    LetterKind {
        letter,
        properties: TileProperties { surface, zone, material, group: read_group(notes, section) },
        colour,
        notes: read_notes(notes, section),
        rule,
    }
}

fn read_ramp_height(notes: &mut Notes, section: &Section<'_>, key: &str, tile: f64) -> f64 {
    let height = section.needed(notes, key, Kind::Length);
    if !(0.0..=tile).contains(&height) && !height.is_nan() {
        let message =
            format!("{} is {height} px; it must be from 0 to {tile} px, the side of a tile", section.name_of(key));
        notes.error(section.place_of(key), message);
    }
    height
}

fn is_colour(text: &str) -> bool {
    text.strip_prefix('#').is_some_and(|digits| digits.len() == 6 && digits.bytes().all(|b| b.is_ascii_hexdigit()))
}

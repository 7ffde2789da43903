//! The level with who plays it: tiles, zones, platforms, paths, the try again, and what would come of a jump.

use eframe::egui::{Color32, FontId, Painter, Pos2, Rect, Shape, Stroke, StrokeKind, Vec2, vec2};
use wumple::advanced::Crumbling;
use wumple::analysis::{Reach, ReachAnswer};
use wumple::numbers::PlatformSurface;
use wumple::{
    Buttons, DVec2, Edge, Event, Grid, Hitbox, Level, Play, RoundEvent, Side, State, Surface, Terrain, Trace, ZoneId,
    ZoneKind, ZoneOf,
};

use super::colours::{Colours, faint};
use super::sight::Sight;
use crate::desk::{Again, Desk, Ways};

/// What is drawn beside the level and who plays.
#[derive(Clone, Copy, Debug)]
pub struct Shows {
    /// The path of the try, by state.
    pub path: bool,
    /// The names of what happened.
    pub events: bool,
    /// Where a jump would lead from here: let go at once, and held on.
    pub arc: bool,
    /// The hitbox at equal times, where walls are felt, and how large the picture is.
    pub boxes: bool,
    /// Hazards, things to be fetched, goals.
    pub zones: bool,
    /// Where who plays is touched.
    pub contacts: bool,
    /// The ways of platforms.
    pub routes: bool,
    /// Tries that were kept.
    pub ghosts: bool,
    /// What the level's camera sees.
    pub camera: bool,
    /// A line at each tile.
    pub grid: bool,
}

impl Default for Shows {
    fn default() -> Shows {
        Shows {
            path: true,
            events: true,
            arc: false,
            boxes: false,
            zones: true,
            contacts: true,
            routes: true,
            ghosts: true,
            camera: true,
            grid: true,
        }
    }
}

/// A jump is looked ahead of for so many ticks at most.
const ARC_TICKS: u64 = 150;
/// No longer path is drawn, ticks.
const MOST_PATH: usize = 3600;

pub(crate) struct Canvas<'a> {
    pub(crate) painter: &'a Painter,
    pub(crate) sight: Sight,
    pub(crate) colours: Colours,
    pub(crate) shows: Shows,
}

impl Canvas<'_> {
    pub(crate) fn draw(&self, desk: &Desk) {
        let level = desk.level();
        self.painter.rect_filled(self.sight.area, 0.0, self.colours.paper);
        self.draw_level(level, desk.player.play());
        self.draw_movers(desk);
        if self.shows.ghosts {
            for ghost in &desk.ghosts {
                self.draw_line(ghost, ghost.rows.len(), Stroke::new(1.5, faint(self.colours.smoke, 0.7)));
            }
        }
        let now = desk.player.tick_now() as usize;
        if let Some(again) = &desk.again {
            self.draw_again(again, desk, now);
        } else if self.shows.path {
            self.draw_path(desk.player.trace(), now);
        }
        if self.shows.arc {
            self.draw_arcs(desk);
        }
        if self.shows.events {
            self.draw_events(desk, now);
        }
        self.draw_character(desk);
        if self.shows.camera {
            self.draw_camera(desk);
        }
    }

    fn at(&self, x: f64, y: f64) -> Pos2 {
        self.sight.to_screen(DVec2::new(x, y))
    }

    fn draw_level(&self, level: &Level, play: &Play<Grid>) {
        let (grid, lines) = (&level.grid, level.grid.grid_lines());
        let away = play.world().away();
        let is_away = |column: i32, row: i32| {
            let zone = grid.tile(column, row).zone.filter(|_| !away.is_empty());
            zone.is_some_and(|zone| {
                away.contains(&ZoneId { kind: zone.kind, of: grid.zone_of_tile(column, row, &zone) })
            })
        };
        let is_gone = |of: ZoneOf| away.iter().any(|zone| zone.of == of);
        let (columns, rows) = self.sight.tiles(level);
        if self.shows.grid && lines.spacing() * self.sight.scale >= 8.0 {
            let line = Stroke::new(1.0, self.colours.grid);
            for column in columns.0..=columns.1 {
                let x = lines.line(column);
                self.painter.line_segment([self.at(x, lines.line(rows.0)), self.at(x, lines.line(rows.1))], line);
            }
            for row in rows.0..=rows.1 {
                let y = lines.line(row);
                self.painter.line_segment([self.at(lines.line(columns.0), y), self.at(lines.line(columns.1), y)], line);
            }
        }
        for row in rows.0..rows.1 {
            let mut column = columns.0;
            while column < columns.1 {
                let kind = grid.kind(column, row);
                let first = column;
                column += 1;
                // Solid tiles side by side are one.
                let is_solid = level.letters[kind].properties.surface == Surface::Solid;
                while is_solid && column < columns.1 && grid.kind(column, row) == kind && !is_away(column, row) {
                    column += 1;
                }
                if is_away(first, row) {
                    continue;
                }
                let place = lines.cell(first, row).around(&lines.cell(column - 1, row));
                self.draw_tile(level, kind, &place, grid.tile(first, row).surface);
            }
        }
        let blocks = grid.blocks().iter().enumerate().filter(|(at, _)| !is_gone(ZoneOf::Block(*at)));
        for (_, block) in blocks {
            let rect = self.sight.rect(&block.place());
            self.painter.rect(rect, 0.0, self.colours.solid, Stroke::new(1.0, self.colours.ink), StrokeKind::Inside);
        }
        for ramp in grid.ramps() {
            let (left, right) = (ramp.left_end(), ramp.right_end());
            self.painter.line_segment(
                [self.sight.to_screen(left), self.sight.to_screen(right)],
                Stroke::new(2.5, self.colours.ink),
            );
        }
        let drawn = grid.zones().iter().enumerate().filter(|(at, _)| self.shows.zones && !is_gone(ZoneOf::Drawn(*at)));
        for (_, drawn) in drawn {
            self.draw_zone(&drawn.place, drawn.zone.kind, true);
        }
        self.draw_edges(level);
    }

    fn draw_tile(&self, level: &Level, kind: usize, place: &Hitbox, surface: Surface) {
        let letter = &level.letters[kind];
        let rect = self.sight.rect(place);
        let own = letter.colour.as_deref().and_then(|text| u32::from_str_radix(text.get(1..)?, 16).ok());
        let fill =
            own.map_or(self.colours.solid, |rgb| Color32::from_rgb((rgb >> 16) as u8, (rgb >> 8) as u8, rgb as u8));
        let edge = Stroke::new(1.5, self.colours.ink);
        match surface {
            Surface::Solid => {
                self.painter.rect_filled(rect, 0.0, fill);
            }
            Surface::OneWay => {
                self.painter.line_segment(
                    [rect.left_top(), rect.right_top()],
                    Stroke::new(2.5, own.map_or(self.colours.ink, |_| fill)),
                );
                self.painter.line_segment(
                    [rect.left_top() + vec2(0.0, 3.0), rect.right_top() + vec2(0.0, 3.0)],
                    Stroke::new(1.0, faint(self.colours.ink, 0.4)),
                );
            }
            Surface::Ladder => {
                let x = (rect.left() + rect.width() * 0.2, rect.right() - rect.width() * 0.2);
                let rail = Stroke::new(1.5, self.colours.plum);
                self.painter.vline(x.0, rect.y_range(), rail);
                self.painter.vline(x.1, rect.y_range(), rail);
                for step in 0..3 {
                    let y = rect.top() + rect.height() * (step as f32 + 0.5) / 3.0;
                    self.painter
                        .line_segment([Pos2::new(x.0, y), Pos2::new(x.1, y)], Stroke::new(1.0, self.colours.plum));
                }
            }
            Surface::Ramp { left_height, right_height } => {
                let left = self.at(place.left, place.bottom - left_height);
                let right = self.at(place.right, place.bottom - right_height);
                let points = vec![rect.left_bottom(), left, right, rect.right_bottom()];
                self.painter.add(Shape::convex_polygon(points, fill, Stroke::NONE));
                self.painter.line_segment([left, right], edge);
            }
            _ => {}
        }
        let material = letter.properties.material;
        if material.bounce.is_some() {
            self.mark_top(rect, self.colours.terracotta);
        } else if material.surface_speed != 0.0 || material.grip != 1.0 {
            self.mark_top(rect, self.colours.celadon);
        }
        if let Some(zone) = letter.properties.zone.filter(|_| self.shows.zones) {
            self.draw_zone(place, zone.kind, false);
        }
    }

    /// A top that does something: a line beneath it in a colour.
    fn mark_top(&self, rect: Rect, colour: Color32) {
        self.painter.line_segment(
            [rect.left_top() + vec2(0.0, 2.0), rect.right_top() + vec2(0.0, 2.0)],
            Stroke::new(3.0, colour),
        );
    }

    fn draw_zone(&self, place: &Hitbox, kind: ZoneKind, is_drawn: bool) {
        let (rect, colour) = (self.sight.rect(place), self.colours.of_zone(kind));
        let (middle, size) = (rect.center(), rect.size().min_elem().min(40.0) * 0.32);
        if is_drawn || kind == ZoneKind::Goal {
            self.painter.rect(rect.shrink(2.0), 2.0, faint(colour, 0.18), Stroke::new(1.5, colour), StrokeKind::Inside);
        }
        let points: Vec<Vec2> = match kind {
            ZoneKind::Hazard => vec![vec2(0.0, -1.0), vec2(1.0, 0.9), vec2(-1.0, 0.9)],
            ZoneKind::Pickup => vec![vec2(0.0, -1.0), vec2(0.8, 0.0), vec2(0.0, 1.0), vec2(-0.8, 0.0)],
            ZoneKind::Checkpoint => vec![vec2(-0.5, -1.0), vec2(0.9, -0.5), vec2(-0.5, 0.0)],
            _ => return,
        };
        let points = points.into_iter().map(|point| middle + point * size).collect();
        self.painter.add(Shape::convex_polygon(points, colour, Stroke::NONE));
        if kind == ZoneKind::Checkpoint {
            let pole = [middle + vec2(-0.5, -1.0) * size, middle + vec2(-0.5, 1.0) * size];
            self.painter.line_segment(pole, Stroke::new(1.5, colour));
        }
    }

    fn draw_edges(&self, level: &Level) {
        let (width, height) = (level.grid.width(), level.grid.height());
        for side in Side::ALL {
            let ends = match side {
                Side::Left => [self.at(0.0, 0.0), self.at(0.0, height)],
                Side::Right => [self.at(width, 0.0), self.at(width, height)],
                Side::Top => [self.at(0.0, 0.0), self.at(width, 0.0)],
                Side::Bottom => [self.at(0.0, height), self.at(width, height)],
            };
            match level.grid.edges().on(side) {
                Edge::Solid => {
                    self.painter.line_segment(ends, Stroke::new(3.0, self.colours.ink));
                }
                Edge::Deadly => {
                    self.painter.extend(Shape::dashed_line(
                        &ends,
                        Stroke::new(3.0, self.colours.terracotta),
                        10.0,
                        6.0,
                    ));
                }
                Edge::Open => {}
            }
        }
    }

    fn draw_movers(&self, desk: &Desk) {
        let (world, level, blend) = (desk.player.play().world(), desk.level(), desk.player.blend());
        for (index, numbers) in level.platforms.iter().enumerate() {
            if self.shows.routes && numbers.route.len() > 1 {
                let middle = |corner: &DVec2| self.sight.to_screen(*corner + numbers.size * 0.5);
                let way: Vec<Pos2> = numbers.route.iter().map(middle).collect();
                self.painter.extend(Shape::dashed_line(
                    &way,
                    Stroke::new(1.0, faint(self.colours.cobalt, 0.7)),
                    5.0,
                    4.0,
                ));
            }
            if world.away().iter().any(|zone| zone.of == ZoneOf::Platform(index)) {
                continue;
            }
            let report = world.platform_report(index);
            let place = between(&report.before, &report.place, blend);
            let is_gone = report.crumbling == Crumbling::Gone;
            let strength = if is_gone {
                0.08
            } else if report.surface == PlatformSurface::Solid {
                0.4
            } else {
                0.15
            };
            let rect = self.sight.rect(&place);
            let line = Stroke::new(1.5, if is_gone { faint(self.colours.ink, 0.3) } else { self.colours.ink });
            self.painter.rect_filled(rect, 0.0, faint(self.colours.cobalt, strength));
            if report.surface == PlatformSurface::Solid {
                self.painter.rect_stroke(rect, 0.0, line, StrokeKind::Inside);
            } else {
                self.painter.line_segment([rect.left_top(), rect.right_top()], Stroke::new(2.5, line.color));
            }
        }
        for prop in world.props() {
            let place = world.place_of(prop.into());
            let report = world.report(prop);
            let by = report.from - report.feet;
            let place = moved(&place, by * (1.0 - blend));
            let rect = self.sight.rect(&place);
            self.painter.rect(
                rect,
                0.0,
                faint(self.colours.ochre, 0.35),
                Stroke::new(1.5, self.colours.ink),
                StrokeKind::Inside,
            );
            self.painter.line_segment([rect.left_top(), rect.right_bottom()], Stroke::new(1.0, self.colours.ochre));
            self.painter.line_segment([rect.left_bottom(), rect.right_top()], Stroke::new(1.0, self.colours.ochre));
        }
    }

    /// The path of the present attempt, as far as it is looked at; what comes after that is faint.
    fn draw_path(&self, trace: &Trace, now: usize) {
        let first = trace.rows.len().saturating_sub(MOST_PATH);
        let mut from = first;
        for at in first + 1..=trace.rows.len() {
            let ends = at == trace.rows.len()
                || trace.rows[at].state != trace.rows[at - 1].state
                || trace.attempt(at) != trace.attempt(at - 1)
                || at == now + 1;
            if !ends {
                continue;
            }
            let points: Vec<Pos2> = trace.rows[from..at].iter().map(|row| self.sight.to_screen(row.feet)).collect();
            let is_now = trace.attempt(at - 1) == trace.attempt(now.min(trace.rows.len() - 1));
            let share = if at > now + 1 || !is_now { 0.3 } else { 1.0 };
            self.draw_stretch(&points, trace.rows[at - 1].state, share);
            let goes_on = at < trace.rows.len() && trace.attempt(at) == trace.attempt(at - 1);
            from = if goes_on { at - 1 } else { at };
        }
    }

    fn draw_stretch(&self, points: &[Pos2], state: State, share: f32) {
        if points.len() < 2 {
            return;
        }
        let colour = faint(self.colours.of_state(state), share);
        match state {
            State::Rise => self.painter.extend(Shape::dashed_line(points, Stroke::new(2.5, colour), 8.0, 4.0)),
            State::Fall => self.painter.extend(Shape::dashed_line(points, Stroke::new(2.5, colour), 4.0, 3.0)),
            _ => {
                self.painter.line(points.to_vec(), Stroke::new(2.5, colour));
            }
        }
    }

    fn draw_line(&self, trace: &Trace, rows: usize, stroke: Stroke) {
        let points: Vec<Pos2> =
            trace.rows.iter().take(rows.min(MOST_PATH)).map(|row| self.sight.to_screen(row.feet)).collect();
        if points.len() > 1 {
            self.painter.line(points, stroke);
        }
    }

    /// How the try went, thin and grey, and how it would go with the numbers of now; where both are at one time.
    fn draw_again(&self, again: &Again, desk: &Desk, now: usize) {
        self.draw_line(&again.then, again.then.rows.len(), Stroke::new(2.0, self.colours.smoke));
        self.draw_line(&again.now, again.now.rows.len(), Stroke::new(3.0, self.colours.plum));
        let at = if now == 0 { again.then.rows.len() } else { now };
        if let Some(row) = again.now.rows.get(at.min(again.now.rows.len() - 1)) {
            let hitbox = desk.numbers.file().tuning.body().hitbox_at(row.feet);
            self.painter.rect_stroke(
                self.sight.rect(&hitbox),
                0.0,
                Stroke::new(2.0, self.colours.plum),
                StrokeKind::Inside,
            );
        }
    }

    /// Where a jump would lead from here, let go at once and held on; in the air, going on with the button up and down.
    fn draw_arcs(&self, desk: &Desk) {
        let play = desk.player.play();
        let held = desk.player.tried().held.at(desk.player.tick_now());
        let steered = Buttons { jump: false, ..held };
        for (held_for, colour) in [(1, self.colours.terracotta), (u64::MAX, self.colours.cobalt)] {
            let ahead = play.look_ahead(desk.level(), ARC_TICKS, |tick| Buttons { jump: tick <= held_for, ..steered });
            let points: Vec<Pos2> = ahead.iter().map(|feet| self.sight.to_screen(*feet)).collect();
            for point in points.iter().step_by(4) {
                self.painter.circle_filled(*point, 1.8, colour);
            }
        }
    }

    /// What happened lately, beside where it did; what has no room is left out.
    fn draw_events(&self, desk: &Desk, now: usize) {
        let trace = desk.player.trace();
        // Who plays is seen.
        let mut taken: Vec<Rect> = vec![self.character_place(desk)];
        let font = FontId::proportional(12.0);
        let rows = trace.rows.iter().enumerate().take(now + 1).rev().take(600);
        let with_words = rows.filter_map(|(at, row)| Some((row, words_of(trace, at)?)));
        for (row, words) in with_words.take(14) {
            let point = self.sight.to_screen(row.feet);
            if !self.sight.area.contains(point) {
                continue;
            }
            self.painter.circle_filled(point, 3.0, self.colours.plum);
            let galley = self.painter.layout_no_wrap(words, font.clone(), self.colours.ink);
            let places = [
                vec2(8.0, -18.0),
                vec2(8.0, 4.0),
                vec2(-8.0 - galley.size().x, -18.0),
                vec2(-8.0 - galley.size().x, 4.0),
                vec2(8.0, -36.0),
                vec2(8.0, 22.0),
            ];
            let rects = places.map(|by| Rect::from_min_size(point + by, galley.size()).expand(2.0));
            let free = rects.into_iter().find(|rect| {
                self.sight.area.contains_rect(*rect) && !taken.iter().any(|other| other.intersects(*rect))
            });
            if let Some(rect) = free {
                self.painter.rect_filled(rect, 2.0, faint(self.colours.paper, 0.8));
                self.painter.galley(rect.min + vec2(2.0, 2.0), galley, self.colours.ink);
                taken.push(rect);
            }
        }
    }

    /// Where the feet are on their way from one tick to the next.
    fn feet(desk: &Desk) -> DVec2 {
        let report = desk.player.play().report();
        report.from + (report.feet - report.from) * desk.player.blend()
    }

    fn character_place(&self, desk: &Desk) -> Rect {
        let body = *desk.player.play().character().tuning().body();
        self.sight.rect(&body.hitbox_at(Canvas::feet(desk)))
    }

    fn draw_character(&self, desk: &Desk) {
        let play = desk.player.play();
        let report = play.report();
        let tuning = play.character().tuning();
        let feet = Canvas::feet(desk);
        let hitbox = tuning.body().hitbox_at(feet);
        let rect = self.sight.rect(&hitbox);
        let colour = self.colours.of_state(report.state);
        if self.shows.boxes {
            let probe = tuning.wall_probe();
            for (left, right) in [(hitbox.left - probe, hitbox.left), (hitbox.right, hitbox.right + probe)] {
                let side = self.sight.rect(&Hitbox { left, right, ..hitbox });
                self.painter.rect_filled(side, 0.0, faint(self.colours.ochre, 0.5));
            }
            for row in play.trace().rows.iter().rev().step_by(10).take(40) {
                let rect = self.sight.rect(&tuning.body().hitbox_at(row.feet));
                self.painter.rect_stroke(
                    rect,
                    0.0,
                    Stroke::new(1.0, faint(self.colours.smoke, 0.5)),
                    StrokeKind::Inside,
                );
            }
        }
        if let Some(picture) = desk.numbers.file().picture.filter(|_| self.shows.boxes) {
            // As large as the game draws it; the motion knows nothing of it.
            let (middle, bottom) = (feet.x + picture.right, feet.y + picture.down);
            let half = picture.width / 2.0;
            let drawn = Hitbox { left: middle - half, right: middle + half, top: bottom - picture.height, bottom };
            let outline = Stroke::new(1.0, self.colours.smoke);
            self.painter.rect_stroke(self.sight.rect(&drawn), 0.0, outline, StrokeKind::Middle);
        }
        self.painter.rect(rect, 2.0, faint(colour, 0.55), Stroke::new(2.0, self.colours.ink), StrokeKind::Inside);
        // Where it looks, and what touches it.
        let look = match report.facing {
            wumple::Facing::Left => vec2(-1.0, 0.0),
            wumple::Facing::Right => vec2(1.0, 0.0),
            wumple::Facing::Up => vec2(0.0, -1.0),
            wumple::Facing::Down => vec2(0.0, 1.0),
        };
        let eye =
            rect.center() + vec2(look.x * rect.width() * 0.22, look.y * rect.height() * 0.22 - rect.height() * 0.2);
        self.painter.circle_filled(eye, (rect.width() * 0.12).max(1.5), self.colours.ink);
        let contacts = report.contacts;
        let touch = Stroke::new(3.0, self.colours.terracotta);
        let sides = [
            (contacts.left, [rect.left_top(), rect.left_bottom()]),
            (contacts.right, [rect.right_top(), rect.right_bottom()]),
            (contacts.above, [rect.left_top(), rect.right_top()]),
            (contacts.below, [rect.left_bottom(), rect.right_bottom()]),
        ];
        for (_, side) in sides.into_iter().filter(|(is_touched, _)| *is_touched && self.shows.contacts) {
            self.painter.line_segment(side, touch);
        }
    }

    /// What can be reached and what cannot, and the way to where the pointer is.
    pub(crate) fn draw_ways(&self, ways: &Ways, pointer: Option<DVec2>, tile: f64) {
        let Some(report) = ways.report() else { return };
        let pointed = pointer.and_then(|place| ways.at(place, tile));
        for target in &report.targets {
            let is_pointed = pointed.is_some_and(|pointed| pointed.target == target.target);
            self.draw_target(target, if is_pointed { 5.0 } else { 3.0 });
        }
        let Some(Reach { target, answer, .. }) = pointed else { return };
        let words = match answer {
            ReachAnswer::Reached { ticks, path, .. } => {
                let points: Vec<Pos2> = path.iter().map(|feet| self.sight.to_screen(*feet)).collect();
                self.painter.line(points, Stroke::new(2.5, self.colours.plum));
                format!("{target}: in {} s", wumple::units::short(*ticks as f64 / report.rate_hz))
            }
            ReachAnswer::OutOfReach { why } => format!("{target}: out of reach: {why}"),
            ReachAnswer::NotFound => format!("{target}: not found"),
        };
        self.caption(&words);
    }

    fn draw_target(&self, target: &Reach, width: f32) {
        let [left, top, right, bottom] = target.place_px;
        let colour = match target.answer {
            ReachAnswer::Reached { .. } => self.colours.celadon,
            ReachAnswer::OutOfReach { .. } => self.colours.terracotta,
            ReachAnswer::NotFound => self.colours.smoke,
        };
        let stroke = Stroke::new(width, colour);
        if bottom > top {
            let place = self.sight.rect(&Hitbox { left, right, top, bottom });
            self.painter.rect_stroke(place, 2.0, stroke, StrokeKind::Outside);
            return;
        }
        let ends = [self.at(left, top), self.at(right, top)];
        // Told apart without colours, too.
        if matches!(target.answer, ReachAnswer::Reached { .. }) {
            self.painter.line_segment(ends, stroke);
        } else {
            self.painter.extend(Shape::dashed_line(&ends, stroke, 6.0, 4.0));
        }
    }

    /// Words at the bottom of the level, as wide as it is.
    fn caption(&self, words: &str) {
        let font = FontId::proportional(13.0);
        let galley = self.painter.layout(words.to_owned(), font, self.colours.ink, self.sight.area.width() - 24.0);
        let at = self.sight.area.left_bottom() + vec2(10.0, -10.0 - galley.size().y);
        let behind = Rect::from_min_size(at, galley.size()).expand(4.0);
        self.painter.rect_filled(behind, 3.0, faint(self.colours.paper, 0.9));
        self.painter.galley(at, galley, self.colours.ink);
    }

    /// The tile that the keys have come to.
    pub(crate) fn draw_tile_in_hand(&self, cell: &Hitbox) {
        self.painter.rect_stroke(self.sight.rect(cell), 1.0, Stroke::new(2.0, self.colours.plum), StrokeKind::Outside);
    }

    fn draw_camera(&self, desk: &Desk) {
        if let Some(camera) = desk.player.play().camera() {
            let corners = self.sight.rect(&camera.view());
            let ends = [
                corners.left_top(),
                corners.right_top(),
                corners.right_bottom(),
                corners.left_bottom(),
                corners.left_top(),
            ];
            self.painter.extend(Shape::dashed_line(&ends, Stroke::new(1.0, self.colours.plum), 8.0, 5.0));
        }
    }

    /// Words over the level, at its top left.
    pub(crate) fn write(&self, line: usize, words: &str, colour: Color32) {
        let at = self.sight.area.left_top() + vec2(10.0, 8.0 + line as f32 * 18.0);
        let galley = self.painter.layout_no_wrap(words.to_owned(), FontId::proportional(13.0), colour);
        self.painter.rect_filled(
            Rect::from_min_size(at, galley.size()).expand(3.0),
            3.0,
            faint(self.colours.paper, 0.85),
        );
        self.painter.galley(at, galley, colour);
    }

    /// Words that stand out, at its top right.
    pub(crate) fn announce(&self, words: &str) {
        let galley = self.painter.layout_no_wrap(words.to_owned(), FontId::proportional(18.0), self.colours.ink);
        let at = self.sight.area.right_top() + vec2(-12.0 - galley.size().x, 8.0);
        let rect = Rect::from_min_size(at, galley.size());
        self.painter.rect(
            rect.expand(6.0),
            4.0,
            self.colours.paper,
            Stroke::new(1.0, self.colours.ink),
            StrokeKind::Inside,
        );
        self.painter.galley(at, galley, self.colours.ink);
    }
}

/// What happened in a row, in the words of a trace, if it is worth writing down over the level.
fn words_of(trace: &Trace, at: usize) -> Option<String> {
    let of_motion = trace.rows[at].events.iter().filter(|event| {
        !matches!(event, Event::SteppedUp | Event::SteppedDown | Event::Left(_) | Event::Retuned)
            && (trace.rounds.is_empty() || !matches!(event, Event::Entered(_)))
    });
    let motion = of_motion.map(|event| match event {
        Event::Landed { speed } => format!("landed {speed:.0}"),
        other => trace.names.event(other),
    });
    let round = trace.round_events(at).iter().filter(|event| !matches!(event, RoundEvent::Opened(_)));
    let words: Vec<String> = motion.chain(round.map(|event| trace.names.round_event(event))).collect();
    (!words.is_empty()).then(|| format!("{at} {}", words.join(", ")))
}

fn between(from: &Hitbox, to: &Hitbox, share: f64) -> Hitbox {
    let mix = |from: f64, to: f64| from + (to - from) * share;
    Hitbox {
        left: mix(from.left, to.left),
        right: mix(from.right, to.right),
        top: mix(from.top, to.top),
        bottom: mix(from.bottom, to.bottom),
    }
}

fn moved(place: &Hitbox, by: DVec2) -> Hitbox {
    Hitbox { left: place.left + by.x, right: place.right + by.x, top: place.top + by.y, bottom: place.bottom + by.y }
}

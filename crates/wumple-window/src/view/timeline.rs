//! What was held and what came of it, over time; dragged, it goes back to any tick.

use std::ops::RangeInclusive;

use eframe::egui::{
    Align2, FontId, Rect, Response, RichText, Role, ScrollArea, Sense, Stroke, StrokeKind, Ui, Vec2b, WidgetInfo, pos2,
    vec2,
};
use egui_plot::{Line, LineStyle, Plot, PlotPoints, VLine};
use wumple::why::{Press, WhyLog};
use wumple::{Buttons, Trace};

use super::colours::{Colours, faint};
use crate::desk::Desk;

/// The most that is shown at once, s.
const MOST_SHOWN: f64 = 12.0;
/// How high a strip is, points.
const STRIP: f32 = 13.0;
const LEFT: f32 = 74.0;

/// How near to an end of what is shown a drag goes on beyond it, points.
const EDGE: f32 = 16.0;

/// Which part of a try is shown.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct TimeView {
    /// Where it begins, s.
    start: f64,
    /// It is in the hand, and stays where it is.
    drags: bool,
}

impl TimeView {
    /// The part that is shown now, s: the end of a try that is played, and what is looked at of another.
    fn part(&mut self, now: f64, last: f64, is_played: bool) -> (f64, f64) {
        let whole = last.max(2.0);
        let shown = whole.min(MOST_SHOWN);
        if is_played {
            self.start = whole - shown;
        } else if !(self.drags || (self.start..=self.start + shown).contains(&now)) {
            self.start = now - shown * 0.5;
        }
        self.start = self.start.clamp(0.0, whole - shown);
        (self.start, self.start + shown)
    }
}

/// Shows the timeline; the tick that is dragged to.
pub(crate) fn show(ui: &mut Ui, view: &mut TimeView, desk: &Desk, colours: &Colours) -> Option<u64> {
    let (trace, log) = (desk.player.trace(), desk.player.log());
    let rate = trace.rate;
    let last = (trace.rows.len() - 1) as f64 / rate;
    let now = desk.player.tick_now() as f64 / rate;
    let (start, end) = view.part(now, last, desk.player.runs && !desk.player.is_back());
    let strips = strips(desk, (start * rate) as usize);
    let wide = ui.available_width();
    let whole = ui.available_height();
    let is_long = last > MOST_SHOWN;
    let below = strips.len() as f32 + if is_long { 3.4 } else { 2.2 };
    let plot_height = (whole - below * STRIP).max(48.0);
    let plot = Plot::new("over time")
        .height(plot_height)
        .width(wide)
        .show_axes(Vec2b::new(false, true))
        .y_axis_min_width(LEFT - 8.0)
        .show_grid(Vec2b::new(true, true))
        .allow_zoom(false)
        .allow_drag(false)
        .allow_scroll(false)
        .allow_boxed_zoom(false)
        .set_margin_fraction(vec2(0.0, 0.2))
        .show_crosshair(false);
    let tile = desk.numbers.file().scale.tile;
    let (first_row, last_row) = ((start * rate) as usize, ((end * rate) as usize).min(trace.rows.len() - 1));
    let rows = &trace.rows[first_row.min(last_row)..=last_row];
    let lowest = rows.iter().map(|row| row.feet.y).fold(f64::NEG_INFINITY, f64::max);
    let series = |value: &dyn Fn(&wumple::TickReport) -> f64| -> PlotPoints<'static> {
        rows.iter().map(|row| [row.tick as f64 / rate, value(row)]).collect()
    };
    let heights = Line::new("height, tiles", series(&|row| (lowest - row.feet.y) / tile)).color(colours.ink).width(2.0);
    let along = Line::new("sideways speed, tiles/s", series(&|row| row.velocity.x / tile)).color(colours.cobalt);
    let upward = Line::new("upward speed, tiles/s", series(&|row| -row.velocity.y / tile));
    let upward = upward.color(colours.terracotta).style(LineStyle::dashed_loose());
    let cursor = VLine::new("now", now).color(colours.plum).width(1.5);
    let shown = plot.show(ui, |plot| {
        plot.set_plot_bounds_x(start..=end);
        plot.line(heights);
        plot.line(along);
        plot.line(upward);
        plot.vline(cursor);
    });
    let frame = shown.response.rect;
    let x_at = |seconds: f64| shown.transform.position_from_point_x(seconds);
    let tick_at = |x: f32| {
        let seconds = shown.transform.value_from_position(pos2(x, frame.center().y)).x;
        (seconds * rate).round().clamp(0.0, last * rate) as u64
    };
    let (area, response) =
        ui.allocate_exact_size(vec2(wide, (strips.len() as f32 + 2.0) * STRIP), Sense::click_and_drag());
    let painter = ui.painter_at(area);
    let drawing = Drawing { area, colours, x_at: &x_at, rate, start, end };
    for (at, strip) in strips.iter().enumerate() {
        drawing.strip(&painter, at, strip);
    }
    drawing.marks(&painter, strips.len(), trace, log.presses());
    drawing.seconds(&painter, strips.len() + 1);
    // What the lines over it are.
    let mut x = frame.left() + LEFT + 10.0;
    for (words, colour) in
        [("height, tiles", colours.ink), ("sideways tiles/s", colours.cobalt), ("upward tiles/s", colours.terracotta)]
    {
        let galley = ui.painter().layout_no_wrap(words.to_owned(), FontId::proportional(11.0), colour);
        let wide = galley.size().x;
        let behind = Rect::from_min_size(pos2(x, frame.top() + 2.0), galley.size()).expand(2.0);
        ui.painter().rect_filled(behind, 2.0, faint(colours.paper, 0.85));
        ui.painter().galley(pos2(x, frame.top() + 2.0), galley, colour);
        x += wide + 14.0;
    }
    let x = x_at(now);
    painter.vline(x, area.y_range(), Stroke::new(1.5, colours.plum));
    response.widget_info(|| WidgetInfo::labeled(Role::Canvas, true, "The timeline"));
    let (response, of_plot) = (response.on_hover_text(DRAG_TIP), shown.response.on_hover_text(DRAG_TIP));
    view.drags = response.is_pointer_button_down_on() || of_plot.is_pointer_button_down_on();
    let taken = [response, of_plot].into_iter().find(is_taken);
    let mut gone_to = None;
    if let Some(pointer) = taken.and_then(|response| response.interact_pointer_pos()) {
        gone_to = Some(tick_at(pointer.x));
        let beyond = if pointer.x < x_at(start) + EDGE {
            -1.0
        } else if pointer.x > x_at(end) - EDGE {
            1.0
        } else {
            0.0
        };
        if view.drags && beyond != 0.0 {
            // What is shown goes by in a second.
            view.start += beyond * (end - start) * f64::from(ui.input(|input| input.stable_dt)).min(0.1);
            ui.ctx().request_repaint();
        }
    }
    if is_long {
        let of_whole = show_whole(ui, desk, log, colours, (start, end), x_at(start)..=x_at(end));
        if let Some(tick) = of_whole {
            view.start = tick as f64 / rate - (end - start) * 0.5;
            gone_to = Some(tick);
        }
    }
    gone_to
}

/// Whether the hand is on it: from the press on, not only once it moves.
fn is_taken(response: &Response) -> bool {
    response.is_pointer_button_down_on() || response.clicked()
}

const DRAG_TIP: &str = "click or drag: go back to any tick (keys , and . go by one)";

/// The states of a long try from its start to its end, and which part is shown above; the tick that is dragged to.
fn show_whole(
    ui: &mut Ui,
    desk: &Desk,
    log: &WhyLog,
    colours: &Colours,
    shown: (f64, f64),
    along: RangeInclusive<f32>,
) -> Option<u64> {
    let rows = &desk.player.trace().rows;
    let rate = desk.player.trace().rate;
    let (area, response) = ui.allocate_exact_size(vec2(ui.available_width(), STRIP), Sense::click_and_drag());
    let painter = ui.painter_at(area);
    let bar = Rect::from_x_y_ranges(along, area.top() + 2.0..=area.bottom() - 1.0);
    let wide = f64::from(bar.width().max(1.0));
    let last = rows.len() - 1;
    let x_at = |tick: f64| bar.left() + (tick / last as f64 * wide) as f32;
    painter.text(
        pos2(area.left() + LEFT - 14.0, bar.center().y),
        Align2::RIGHT_CENTER,
        "whole try",
        FontId::proportional(11.0),
        colours.smoke,
    );
    // The state of each point of the screen: of a long try there are more ticks than these.
    let points: Vec<usize> = (0..wide as usize).map(|at| (at as f64 / wide * last as f64) as usize + 1).collect();
    let mut left = bar.left();
    for group in points.chunk_by(|one, next| rows[(*one).min(last)].state == rows[(*next).min(last)].state) {
        let right = left + group.len() as f32;
        let rect = Rect::from_min_max(pos2(left, bar.top()), pos2(right, bar.bottom()));
        painter.rect_filled(rect, 0.0, faint(colours.of_state(rows[group[0].min(last)].state), 0.45));
        left = right;
    }
    for press in log.presses().iter().filter(|press| press.led_to == "nothing" && press.pressed_tick <= last as u64) {
        painter.vline(x_at(press.pressed_tick as f64), bar.y_range(), Stroke::new(1.5, colours.terracotta));
    }
    let part = Rect::from_x_y_ranges(x_at(shown.0 * rate)..=x_at(shown.1 * rate), bar.y_range());
    painter.rect_stroke(part, 1.0, Stroke::new(1.5, colours.ink), StrokeKind::Middle);
    painter.vline(x_at(desk.player.tick_now() as f64), bar.y_range(), Stroke::new(1.5, colours.plum));
    response.widget_info(|| WidgetInfo::labeled(Role::Canvas, true, "The whole try"));
    let response = response.on_hover_text("click or drag: go to another part of the try");
    let pointer = response.interact_pointer_pos().filter(|_| is_taken(&response))?;
    let share = f64::from((pointer.x - bar.left()) / bar.width()).clamp(0.0, 1.0);
    Some((share * last as f64).round() as u64)
}

/// A strip: what it is called, and its stretches, each in seconds.
struct Strip {
    name: &'static str,
    stretches: Vec<(f64, f64, Option<wumple::State>)>,
}

/// The state from a row on, and each button that was held at all.
fn strips(desk: &Desk, first: usize) -> Vec<Strip> {
    let trace = desk.player.trace();
    let rate = trace.rate;
    let rows = &trace.rows;
    let mut states = Strip { name: "state", stretches: Vec::new() };
    for group in rows[(first + 1).min(rows.len())..].chunk_by(|one, next| one.state == next.state) {
        let (from, to) = (group[0].tick - 1, group[group.len() - 1].tick);
        states.stretches.push((from as f64 / rate, to as f64 / rate, Some(group[0].state)));
    }
    let mut all = vec![states];
    let held = &desk.player.tried().held;
    for button in Buttons::ALL {
        let mut strip = Strip { name: button.name, stretches: Vec::new() };
        let mut since = None;
        let end = rows.len() as u64 - 1;
        for (tick, buttons) in held.changes().iter().copied().chain([(end + 1, Buttons::NONE)]) {
            match (since, button.is_held(&buttons)) {
                (None, true) => since = Some(tick),
                (Some(from), false) => {
                    strip.stretches.push(((from.max(1) - 1) as f64 / rate, (tick - 1) as f64 / rate, None));
                    since = None;
                }
                _ => {}
            }
        }
        if !strip.stretches.is_empty() || matches!(button.name, "jump" | "left" | "right") {
            all.push(strip);
        }
    }
    all
}

struct Drawing<'a> {
    area: Rect,
    colours: &'a Colours,
    x_at: &'a dyn Fn(f64) -> f32,
    rate: f64,
    start: f64,
    end: f64,
}

impl Drawing<'_> {
    fn row(&self, at: usize) -> (f32, f32) {
        let top = self.area.top() + at as f32 * STRIP;
        (top + 1.0, top + STRIP - 1.0)
    }

    fn strip(&self, painter: &eframe::egui::Painter, at: usize, strip: &Strip) {
        let (top, bottom) = self.row(at);
        let font = FontId::proportional(11.0);
        let middle = f32::midpoint(top, bottom);
        painter.text(
            pos2(self.area.left() + LEFT - 14.0, middle),
            Align2::RIGHT_CENTER,
            strip.name,
            font.clone(),
            self.colours.smoke,
        );
        for (from, to, state) in strip.stretches.iter().filter(|(from, to, _)| *to >= self.start && *from <= self.end) {
            let (left, right) = ((self.x_at)(from.max(self.start)), (self.x_at)(to.min(self.end)));
            let rect = Rect::from_min_max(pos2(left, top), pos2(right.max(left + 1.0), bottom));
            let colour = state.map_or(self.colours.smoke, |state| self.colours.of_state(state));
            painter.rect_filled(rect, 1.0, faint(colour, if state.is_some() { 0.45 } else { 0.9 }));
            if let Some(state) = state {
                let galley = painter.layout_no_wrap(state.name().to_owned(), font.clone(), self.colours.ink);
                if galley.size().x + 4.0 < rect.width() {
                    painter.galley(rect.center() - galley.size() * 0.5, galley, self.colours.ink);
                }
            }
        }
    }

    /// A number at each second.
    fn seconds(&self, painter: &eframe::egui::Painter, at: usize) {
        let (top, bottom) = self.row(at);
        let middle = f32::midpoint(top, bottom);
        let font = FontId::proportional(11.0);
        painter.text(
            pos2(self.area.left() + LEFT - 14.0, middle),
            Align2::RIGHT_CENTER,
            "seconds",
            font.clone(),
            self.colours.smoke,
        );
        for second in (self.start.ceil() as u64)..=(self.end.floor() as u64) {
            let x = (self.x_at)(second as f64);
            if x > self.area.left() + LEFT + 4.0 && x < self.area.right() - 8.0 {
                painter.text(
                    pos2(x, middle),
                    Align2::CENTER_CENTER,
                    second.to_string(),
                    font.clone(),
                    self.colours.smoke,
                );
            }
        }
    }

    /// Jumps that began, and presses that led to nothing.
    fn marks(&self, painter: &eframe::egui::Painter, at: usize, trace: &Trace, presses: &[Press]) {
        let (top, bottom) = self.row(at);
        let middle = f32::midpoint(top, bottom);
        let is_seen = |seconds: f64| seconds >= self.start && seconds <= self.end;
        painter.text(
            pos2(self.area.left() + LEFT - 14.0, middle),
            Align2::RIGHT_CENTER,
            "presses",
            FontId::proportional(11.0),
            self.colours.smoke,
        );
        let seconds = |tick: u64| tick as f64 / self.rate;
        for press in presses
            .iter()
            .filter(|press| is_seen(seconds(press.pressed_tick)) && press.pressed_tick < trace.rows.len() as u64)
        {
            let point = pos2((self.x_at)(seconds(press.pressed_tick)), middle);
            if press.led_to == "nothing" {
                let arm = Stroke::new(2.0, self.colours.terracotta);
                painter.line_segment([point - vec2(4.0, 4.0), point + vec2(4.0, 4.0)], arm);
                painter.line_segment([point + vec2(-4.0, 4.0), point + vec2(4.0, -4.0)], arm);
            } else {
                painter.circle_filled(point, 3.5, self.colours.celadon);
            }
        }
    }
}

/// Why things were decided, up to the tick that is looked at; the tick of a line that is clicked.
pub(crate) fn show_why(ui: &mut Ui, now: u64, log: &WhyLog, colours: &Colours) -> Option<u64> {
    let mut gone_to = None;
    ui.label(RichText::new("Why").strong());
    ScrollArea::vertical().id_salt("why").auto_shrink([false, false]).stick_to_bottom(true).show(ui, |ui| {
        let lines = log.last_lines(now, 40);
        if lines.is_empty() {
            ui.label(RichText::new("jump, and read here why it came or did not").weak());
        }
        for line in lines {
            let lost = log
                .presses()
                .iter()
                .any(|press| press.led_to == "nothing" && press.tick == line.tick && press.why.contains(&line.why));
            let text = RichText::new(format!("{} {}", line.tick, line.why)).size(12.0);
            let text = if lost { text.color(colours.terracotta) } else { text };
            let label = ui.add(eframe::egui::Label::new(text).wrap().sense(Sense::click()));
            if label.on_hover_text(format!("go to tick {}", line.tick)).clicked() {
                gone_to = Some(line.tick);
            }
        }
    });
    gone_to
}

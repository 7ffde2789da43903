//! A gamepad: its buttons and its left stick, each edge in order.

use gilrs::{Axis, Button, EventType, Gilrs};
use wumple::{Buttons, DVec2, StickCurve};

/// A stick that is let go is seldom quite at rest.
const DEAD_ZONE: f64 = 0.2;

/// What is asked for all that was held since the last time. Without a gamepad, or a system that has any, nothing.
pub(crate) fn pad() -> impl FnMut() -> Vec<Buttons> {
    let mut gilrs = Gilrs::new().ok();
    let (mut held, mut stick) = (Buttons::NONE, DVec2::ZERO);
    let curve = StickCurve { dead_zone: DEAD_ZONE, ..StickCurve::NONE };
    move || {
        let mut seen = Vec::new();
        let Some(gilrs) = &mut gilrs else { return seen };
        while let Some(event) = gilrs.next_event() {
            match event.event {
                EventType::ButtonPressed(button, _) => turn(&mut held, button, true),
                EventType::ButtonReleased(button, _) => turn(&mut held, button, false),
                EventType::AxisChanged(Axis::LeftStickX, value, _) => stick.x = f64::from(value),
                EventType::AxisChanged(Axis::LeftStickY, value, _) => stick.y = f64::from(value),
                EventType::Disconnected => (held, stick) = (Buttons::NONE, DVec2::ZERO),
                _ => continue,
            }
            let pushed = curve.of_both(stick);
            (held.steer, held.climb) = (pushed.x, pushed.y);
            seen.push(held);
        }
        seen
    }
}

fn turn(held: &mut Buttons, button: Button, is_down: bool) {
    match button {
        Button::South | Button::East => held.jump = is_down,
        Button::West | Button::RightTrigger | Button::RightTrigger2 => held.grab = is_down,
        Button::DPadLeft => held.left = is_down,
        Button::DPadRight => held.right = is_down,
        Button::DPadUp => held.up = is_down,
        Button::DPadDown => held.down = is_down,
        _ => {}
    }
}

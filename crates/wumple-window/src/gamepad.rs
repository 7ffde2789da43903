//! A gamepad: its buttons and its left stick, each edge in order.

use gilrs::{Axis, Button, EventType, Gilrs};
use wumple::{Buttons, DVec2, StickCurve};
use wumple_window::view::PadEdge;

/// A stick that is let go is seldom quite at rest.
const DEAD_ZONE: f64 = 0.2;

/// The buttons of a gamepad that are each button of who plays.
const BUTTONS: [(&str, &[Button]); 6] = [
    ("left", &[Button::DPadLeft]),
    ("right", &[Button::DPadRight]),
    ("up", &[Button::DPadUp]),
    ("down", &[Button::DPadDown]),
    ("jump", &[Button::South, Button::East]),
    ("grab", &[Button::West, Button::RightTrigger, Button::RightTrigger2]),
];

/// What is asked for all that happened since the last time. Without a gamepad, or a system that has any, nothing.
pub(crate) fn pad() -> impl FnMut() -> Vec<PadEdge> {
    let mut gilrs = Gilrs::new().ok();
    let mut pad = Pad::default();
    move || {
        let events = std::iter::from_fn(|| gilrs.as_mut()?.next_event());
        events.filter_map(|event| pad.take(&event.event)).collect()
    }
}

/// The buttons that are down, and where the stick is.
#[derive(Default)]
struct Pad {
    down: Vec<Button>,
    stick: DVec2,
}

impl Pad {
    fn take(&mut self, event: &EventType) -> Option<PadEdge> {
        match *event {
            EventType::ButtonPressed(button, _) => self.turn(button, true),
            EventType::ButtonReleased(button, _) => self.turn(button, false),
            EventType::AxisChanged(axis, value, _) => self.lean(axis, f64::from(value)),
            EventType::Disconnected => {
                *self = Pad::default();
                Some(PadEdge::Held(Buttons::NONE))
            }
            _ => None,
        }
    }

    fn turn(&mut self, button: Button, is_down: bool) -> Option<PadEdge> {
        match button {
            Button::Start => return is_down.then_some(PadEdge::Pause),
            Button::Select => return is_down.then_some(PadEdge::Restart),
            _ if !BUTTONS.iter().any(|(_, buttons)| buttons.contains(&button)) => return None,
            _ => {}
        }
        self.down.retain(|other| *other != button);
        if is_down {
            self.down.push(button);
        }
        Some(PadEdge::Held(self.held()))
    }

    fn lean(&mut self, axis: Axis, value: f64) -> Option<PadEdge> {
        let before = self.held();
        match axis {
            Axis::LeftStickX => self.stick.x = value,
            Axis::LeftStickY => self.stick.y = value,
            _ => return None,
        }
        let held = self.held();
        (held != before).then_some(PadEdge::Held(held))
    }

    fn held(&self) -> Buttons {
        let mut held = Buttons::NONE;
        for (name, buttons) in BUTTONS {
            let button = Buttons::ALL.iter().find(|button| button.name == name).expect("a button's name");
            button.hold(&mut held, buttons.iter().any(|button| self.down.contains(button)));
        }
        let curve = StickCurve { dead_zone: DEAD_ZONE, ..StickCurve::NONE };
        let pushed = curve.of_both(self.stick);
        (held.steer, held.climb) = (pushed.x, pushed.y);
        held
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn held(edge: Option<PadEdge>) -> Buttons {
        match edge {
            Some(PadEdge::Held(held)) => held,
            other => panic!("{other:?}"),
        }
    }

    #[test]
    fn each_edge_of_a_button_is_told() {
        let mut pad = Pad::default();
        for (name, buttons) in BUTTONS {
            for button in buttons {
                let is_held = |edge| Buttons::ALL.iter().find(|one| one.name == name).unwrap().is_held(&held(edge));
                assert!(is_held(pad.turn(*button, true)), "{button:?}");
                assert!(!is_held(pad.turn(*button, false)), "{button:?}");
            }
        }
        assert_eq!(pad.turn(Button::Start, true), Some(PadEdge::Pause));
        assert_eq!(pad.turn(Button::Select, true), Some(PadEdge::Restart));
        assert_eq!((pad.turn(Button::Start, false), pad.turn(Button::LeftThumb, true)), (None, None));
    }

    #[test]
    fn of_two_that_are_one_either_holds_it() {
        let mut pad = Pad::default();
        assert!(held(pad.turn(Button::South, true)).jump);
        assert!(held(pad.turn(Button::East, true)).jump);
        assert!(held(pad.turn(Button::South, false)).jump, "the other is still down");
        assert!(!held(pad.turn(Button::East, false)).jump);
    }

    #[test]
    fn a_stick_near_its_middle_is_at_rest_and_one_that_leans_is_as_far_as_it_leans() {
        let mut pad = Pad::default();
        assert_eq!(pad.lean(Axis::LeftStickX, 0.15), None, "within the dead zone nothing is another");
        let half = held(pad.lean(Axis::LeftStickX, 0.6)).steer;
        assert!((0.45..0.55).contains(&half), "{half}");
        assert_eq!(held(pad.lean(Axis::LeftStickX, -1.0)).steer, -1.0);
        assert!(held(pad.lean(Axis::LeftStickY, 1.0)).climb > 0.0, "up is up");
        assert_eq!(pad.lean(Axis::RightStickX, 1.0), None);
        assert_eq!(held(pad.take(&EventType::Disconnected)), Buttons::NONE, "unplugged, nothing is held");
    }
}

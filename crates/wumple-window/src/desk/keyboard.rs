//! Which key is which button.

use eframe::egui::Key;
use wumple::Buttons;

/// The keys of each button, by where they are on the keyboard.
pub const KEYS: [(&str, [Key; 2]); 6] = [
    ("left", [Key::ArrowLeft, Key::A]),
    ("right", [Key::ArrowRight, Key::D]),
    ("up", [Key::ArrowUp, Key::W]),
    ("down", [Key::ArrowDown, Key::S]),
    ("jump", [Key::Space, Key::K]),
    ("grab", [Key::L, Key::C]),
];

/// The keys that are down, one edge after the other.
#[derive(Clone, Debug, Default)]
pub struct Keyboard {
    down: Vec<Key>,
}

impl Keyboard {
    /// A key went down or up. What is held then; none if the key is no button, or was so already.
    pub fn turn(&mut self, key: Key, is_down: bool) -> Option<Buttons> {
        let was_down = self.down.contains(&key);
        if was_down == is_down || !KEYS.iter().any(|(_, keys)| keys.contains(&key)) {
            return None;
        }
        if is_down {
            self.down.push(key);
        } else {
            self.down.retain(|other| *other != key);
        }
        Some(self.held())
    }

    /// Every key is let go: the window has lost the keyboard.
    pub fn let_go(&mut self) {
        self.down.clear();
    }

    /// What is held now.
    #[must_use]
    pub fn held(&self) -> Buttons {
        let mut held = Buttons::NONE;
        for (name, keys) in &KEYS {
            let button = Buttons::ALL.iter().find(|button| button.name == *name).expect("a button's name");
            button.hold(&mut held, keys.iter().any(|key| self.down.contains(key)));
        }
        held
    }
}

//! Numbers found, written into a tuning file.

use super::fit::Fit;
use crate::files::edit::{Change, changed};

impl Fit {
    /// A whole tuning file of the numbers found, with a hitbox of ten sixteenths of a tile by 22 and
    /// running at once, to be changed from there.
    pub fn to_tuning_text(&self) -> String {
        let tile = self.tile_px;
        let speed = self.top_speed.map_or(7.5 * tile, |speed| speed.px_s);
        let text = format!(
            "# Made by `wumple fit`.\n\n[scale]\ntile = {tile}\n\n[tick]\nrate = {}\nscheme = \"{}\"\n\n[body]\n\
             width = \"0.625 tiles\"\nheight = \"1.375 tiles\"\n\n[run]\ntop_speed = \"{speed} px/s\"\n\n[fall]\n\n[jump]\n",
            self.rate_hz, self.scheme
        );
        self.write_into(&text)
    }

    /// The text of a tuning file with just the numbers found changed in it: comments and all else stay.
    pub fn write_into(&self, text: &str) -> String {
        let mut changes = vec![
            Change::new(&["jump", "height"], format!("{} px", self.height_px)),
            Change::new(&["jump", "time_to_apex"], format!("{} s", self.time_to_apex_s)),
        ];
        if let Some(ratio) = self.wishes.fall_ratio {
            changes.push(Change::new(&["fall", "gravity_ratio"], ratio));
        }
        if let Some(tap) = self.wishes.tap_height {
            changes.push(Change::new(&["jump", "release", "style"], "to-height"));
            changes.push(Change::new(&["jump", "release", "tap_height"], format!("{tap} px")));
        }
        if let Some(speed) = self.top_speed {
            changes.push(Change::new(&["run", "top_speed"], format!("{} px/s", speed.px_s)));
        }
        let mut removed: Vec<&[&str]> = vec![&["jump", "speed"], &["jump", "gravity"], &["fall", "gravity"]];
        if self.wishes.tap_height.is_some() {
            // What other styles of release need.
            removed.extend([
                &["jump", "release", "keep"][..],
                &["jump", "release", "gravity_ratio"],
                &["jump", "release", "time"],
            ]);
        }
        changed(text, &changes, &removed)
    }
}

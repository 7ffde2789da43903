use glam::DVec2;

/// The size of a hitbox, px. The same in every pose.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Body {
    /// Width, px.
    pub width: f64,
    /// Height, px.
    pub height: f64,
}

impl Body {
    /// Half the width, px: exact, because widths are whole multiples of 1/1024 px.
    #[inline]
    pub fn half_width(&self) -> f64 {
        self.width * 0.5
    }

    /// The box around feet at this place.
    pub fn hitbox_at(&self, feet: DVec2) -> Hitbox {
        Hitbox {
            left: feet.x - self.half_width(),
            right: feet.x + self.half_width(),
            top: feet.y - self.height,
            bottom: feet.y,
        }
    }
}

/// A box `[left, right) x [top, bottom)`, px, y down.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Hitbox {
    /// Left edge, inside.
    pub left: f64,
    /// Right edge, outside.
    pub right: f64,
    /// Top edge, inside.
    pub top: f64,
    /// Bottom edge, outside.
    pub bottom: f64,
}

/// Says how many ticks are due at each frame, when frames take as long as they like.
///
/// It reads no clock: a frame says how long the last one took. What is left over of a tick is kept for the
/// next frame, and is the share by which to draw between the last two ticks. After a frame that took too
/// long, time is dropped: the game slows down for that moment, instead of ticking to catch up, which would
/// make the next frame late too.
///
/// ```
/// use wumple_core::TickPacer;
///
/// let mut pacer = TickPacer::new(60.0, 4);
/// assert_eq!(pacer.advance(1.0 / 30.0), 2); // a frame of two ticks
/// assert_eq!(pacer.advance(0.004), 0); //      a quick one: nothing is due,
/// assert!((pacer.blend() - 0.24).abs() < 1e-9); // draw 24 % of the way to the next
/// assert_eq!(pacer.advance(1.5), 4); //        a hitch: four ticks, and the rest is dropped
/// ```
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TickPacer {
    rate: f64,
    most: u32,
    /// The part of a tick that is over, from 0 to below 1.
    over: f64,
    dropped_seconds: f64,
}

impl TickPacer {
    /// For ticks at `rate` Hz, of which a frame makes at most `most_in_a_frame`.
    ///
    /// # Panics
    ///
    /// If the rate is not a positive finite number, or no tick may be made in a frame.
    #[must_use]
    pub fn new(rate: f64, most_in_a_frame: u32) -> TickPacer {
        assert!(rate > 0.0 && rate.is_finite(), "a tick rate must be a positive number, not {rate}");
        assert!(most_in_a_frame > 0, "a frame must be allowed at least one tick");
        TickPacer { rate, most: most_in_a_frame, over: 0.0, dropped_seconds: 0.0 }
    }

    /// A frame took so long, s: how many ticks are to be made now. A time that is negative or not a number
    /// counts as 0, as of a clock that was set back.
    pub fn advance(&mut self, frame_seconds: f64) -> u32 {
        let ticks = self.over + frame_seconds.max(0.0) * self.rate;
        // A frame that is the length of a tick but for rounding is a tick, or they would come 0, 2, 0, 2.
        let whole = libm::floor(ticks + 1e-9);
        // Of an endless frame nothing is left over.
        self.over = (ticks - whole).max(0.0);
        let most = f64::from(self.most);
        if whole <= most {
            return whole as u32;
        }
        if whole.is_finite() {
            self.dropped_seconds += (whole - most) / self.rate;
        }
        self.most
    }

    /// How far it is on the way from the last tick to the next, from 0 to below 1: draw a character at
    /// `before + (now - before) * blend`, where those are its places at the ends of the last two ticks.
    #[must_use]
    pub fn blend(&self) -> f64 {
        self.over
    }

    /// How much time was dropped so far, s.
    #[must_use]
    pub fn dropped_seconds(&self) -> f64 {
        self.dropped_seconds
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn frames_of_any_length_make_the_ticks_of_their_time() {
        for (rate, frame) in
            [(60.0, 1.0 / 144.0), (60.0, 1.0 / 60.0), (120.0, 1.0 / 60.0), (50.0, 0.0333), (30.0, 0.001)]
        {
            let mut pacer = TickPacer::new(rate, 10);
            let mut ticks = 0;
            for number in 1..=10_000u32 {
                ticks += pacer.advance(frame);
                let due = f64::from(number) * frame * rate;
                let made = f64::from(ticks) + pacer.blend();
                assert!((made - due).abs() < 1e-6, "{rate} Hz, frame {number}: {made} of {due}");
                assert!((0.0..1.0).contains(&pacer.blend()));
            }
            assert_eq!(pacer.dropped_seconds(), 0.0);
        }
    }

    #[test]
    fn frames_of_one_tick_make_one_each() {
        for rate in [30.0, 50.0, 60.0, 75.0, 120.0, 144.0, 1000.0] {
            let mut pacer = TickPacer::new(rate, 4);
            assert!((0..100_000).all(|_| pacer.advance(1.0 / rate) == 1), "{rate} Hz");
        }
    }

    #[test]
    fn a_hitch_drops_time_and_odd_times_count_as_none() {
        let mut pacer = TickPacer::new(60.0, 5);
        assert_eq!((pacer.advance(0.01), pacer.advance(2.0)), (0, 5));
        assert!((pacer.dropped_seconds() - (120.0 - 5.0) / 60.0).abs() < 1e-9);
        assert!((pacer.blend() - 0.6).abs() < 1e-6, "the part of a tick goes on: {}", pacer.blend());
        let blend = pacer.blend();
        for odd in [-1.0, f64::NAN, f64::NEG_INFINITY, 0.0] {
            assert_eq!((pacer.advance(odd), pacer.blend()), (0, blend));
        }
        assert_eq!((pacer.advance(f64::INFINITY), pacer.blend()), (5, 0.0));
    }
}

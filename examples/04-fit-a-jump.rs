//! Numbers from wishes, for a hand-written loop that changes the speed first and then the place.

use wumple::numbers::Scheme;
use wumple::units::{Quantity, Scale};
use wumple::{GameLoop, Wishes, fit};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let scale = Scale { tile: 16.0, frames_per_second: 60.0 };
    let looped = GameLoop { rate: 60.0, scheme: Scheme::VelocityFirst, scale };
    let wishes = Wishes {
        height: Some(Quantity::parse("3.5 tiles")?),
        time_to_apex: Some(Quantity::parse("0.4 s")?),
        ..Wishes::default()
    };
    let found = fit(&wishes, &looped)?;
    println!("take-off {:.3} px/frame", found.speed.px_frame);
    println!("gravity  {:.4} px/frame^2", found.rise_gravity.px_frame2);

    // The loop itself, y up: it comes to the wished height in the wished tick.
    let (mut y, mut vy) = (0.0, found.speed.px_frame);
    for frame in 1.. {
        vy -= found.rise_gravity.px_frame2;
        if vy <= 1e-9 {
            println!("apex {y:.3} px in frame {frame}");
            break;
        }
        y += vy;
    }
    assert!((y - 56.0_f64).abs() < 1e-6);
    Ok(())
}

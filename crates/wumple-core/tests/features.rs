//! What the features `serde` and `mint` add.

#[cfg(feature = "serde")]
#[path = "controller/play/mod.rs"]
mod play;

#[cfg(feature = "serde")]
#[test]
fn numbers_buttons_and_reports_read_back_as_they_were_written() {
    use wumple_core::{Buttons, DVec2, Edges, Grid, PlatformNumbers, TickReport, Tuning, TuningNumbers, World};

    fn back<T: serde::Serialize + serde::de::DeserializeOwned + PartialEq + std::fmt::Debug>(value: &T) -> String {
        let text = serde_json::to_string(value).unwrap();
        assert_eq!(&serde_json::from_str::<T>(&text).unwrap(), value);
        text
    }
    for numbers in [play::dab(), play::climber(Some(play::GRAB)), play::ladder_climber()] {
        back(&numbers);
        back(&Tuning::check(&numbers).unwrap());
    }
    back(&PlatformNumbers::new(DVec2::new(32.0, 6.0), DVec2::ZERO).to(DVec2::new(64.0, 6.0), 20.0));
    assert!(back(&Buttons { jump: true, steer: 0.25, ..Buttons::NONE }).contains("\"steer\":0.25"));

    let grid = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default()).unwrap();
    let mut world = World::new(grid);
    let dab = world.add_character(Tuning::check(&play::dab()).unwrap(), DVec2::new(24.0, 32.0)).unwrap();
    let mut reports: Vec<TickReport> = Vec::new();
    for tick in 0..80 {
        world.tick(&[Buttons { jump: tick % 30 < 20, right: true, ..Buttons::NONE }]);
        reports.push(world.report(dab).clone());
    }
    let text = back(&reports);
    assert!(text.contains("jumped") && text.contains("\"state\":\"rise\""));

    // What is wrong is refused at the door, with the bound.
    let wrong = TuningNumbers { rate: -1.0, ..play::dab() };
    let refused = serde_json::from_str::<Tuning>(&serde_json::to_string(&wrong).unwrap()).unwrap_err();
    assert!(refused.to_string().contains("tick.rate"), "{refused}");
}

/// What is not written is as in a tuning's file; what is written wrong is not passed over.
#[cfg(feature = "serde")]
#[test]
fn what_is_left_out_has_its_default_and_unknown_keys_are_refused() {
    use wumple_core::TuningNumbers;

    let least = r#"{"body":{"width":10,"height":22},"run":{"top_speed":120}}"#;
    let read: TuningNumbers = serde_json::from_str(least).unwrap();
    let mut expected = TuningNumbers::new(10.0, 22.0, 120.0);
    expected.fall.gravity = None;
    assert_eq!(read, expected);
    for (wrong, word) in [
        (r#"{"body":{"width":10,"height":22,"hieght":1},"run":{"top_speed":120}}"#, "hieght"),
        (r#"{"body":{"width":10,"height":22},"run":{"top_speed":120,"brake":1}}"#, "brake"),
        (r#"{"body":{"width":10,"height":22},"run":{"top_speed":120},"jmup":{}}"#, "jmup"),
        (r#"{"body":{"width":10},"run":{"top_speed":120}}"#, "height"),
    ] {
        let refused = serde_json::from_str::<TuningNumbers>(wrong).unwrap_err();
        assert!(refused.to_string().contains(word), "{refused}");
    }
}

#[cfg(feature = "mint")]
#[test]
fn places_go_to_mint_and_back() {
    let place = wumple_core::DVec2::new(24.5, -3.0);
    let theirs: mint::Point2<f64> = place.into();
    assert_eq!((theirs.x, theirs.y), (24.5, -3.0));
    assert_eq!(wumple_core::DVec2::from(mint::Vector2::from(place)), place);
}

//! The view that follows a character: what it does, and what must always hold.

use proptest::prelude::*;
use wumple_core::camera::{Camera, CameraError, CameraNumbers, Follow, ViewEvent};
use wumple_core::{DVec2, Facing, Hitbox, Side};

const LEVEL: Hitbox = Hitbox { left: 0.0, right: 1000.0, top: 0.0, bottom: 600.0 };

/// A hitbox of 10 x 20 px whose middle is here.
fn at(x: f64, y: f64) -> (Hitbox, Facing) {
    (Hitbox { left: x - 5.0, right: x + 5.0, top: y - 10.0, bottom: y + 10.0 }, Facing::Right)
}

fn numbers() -> CameraNumbers {
    CameraNumbers { still: DVec2::new(40.0, 20.0), ..CameraNumbers::new(DVec2::new(200.0, 100.0)) }
}

fn camera(numbers: &CameraNumbers) -> Camera {
    Camera::new(numbers, LEVEL, &at(500.0, 300.0), 60.0).unwrap()
}

fn corner(camera: &Camera) -> (f64, f64) {
    (camera.view().left, camera.view().top)
}

#[test]
fn nothing_moves_within_the_box_and_on_its_edge() {
    let mut camera = camera(&numbers());
    assert_eq!(corner(&camera), (400.0, 250.0));
    for (x, y) in [(510.0, 305.0), (520.0, 310.0), (480.0, 290.0), (500.0, 300.0)] {
        camera.follow(&at(x, y));
        assert_eq!(corner(&camera), (400.0, 250.0), "({x}, {y})");
    }
    // Beyond it, the middle comes onto its edge.
    camera.follow(&at(523.0, 286.0));
    assert_eq!(corner(&camera), (403.0, 246.0));
    // And back: the box has moved along.
    camera.follow(&at(483.0, 286.0));
    assert_eq!(corner(&camera), (403.0, 246.0));
    camera.follow(&at(481.0, 286.0));
    assert_eq!(corner(&camera), (401.0, 246.0));
}

#[test]
fn it_stays_within_the_level_and_one_that_is_smaller_is_in_the_middle() {
    let mut camera = camera(&numbers());
    camera.follow(&at(5.0, 10.0));
    assert_eq!(corner(&camera), (0.0, 0.0));
    camera.follow(&at(995.0, 590.0));
    assert_eq!(corner(&camera), (800.0, 500.0));
    let small = Hitbox { right: 120.0, bottom: 400.0, ..LEVEL };
    let camera = Camera::new(&numbers(), small, &at(60.0, 200.0), 60.0).unwrap();
    assert_eq!(corner(&camera), (-40.0, 150.0));
    let free = CameraNumbers { within_level: false, ..numbers() };
    let mut camera = Camera::new(&free, LEVEL, &at(5.0, 10.0), 60.0).unwrap();
    assert_eq!(corner(&camera), (-95.0, -40.0));
    camera.follow(&at(-500.0, 10.0));
    assert_eq!(corner(&camera), (-580.0, -40.0));
}

#[test]
fn a_one_way_view_never_goes_back() {
    let table = [
        (Follow::OnlyRight, (560.0, 300.0), (440.0, 250.0)),
        (Follow::OnlyLeft, (440.0, 300.0), (360.0, 250.0)),
        (Follow::OnlyUp, (500.0, 200.0), (400.0, 160.0)),
        (Follow::OnlyDown, (500.0, 400.0), (400.0, 340.0)),
        (Follow::Sideways, (560.0, 200.0), (440.0, 250.0)),
        (Follow::Upright, (560.0, 200.0), (400.0, 160.0)),
    ];
    for (follow, (x, y), expected) in table {
        let mut camera = camera(&CameraNumbers { follow, ..numbers() });
        camera.follow(&at(x, y));
        assert_eq!(corner(&camera), expected, "{follow:?}");
        let goes_back = matches!(follow, Follow::Sideways | Follow::Upright);
        camera.follow(&at(1000.0 - x, 600.0 - y));
        assert_eq!(corner(&camera) != expected, goes_back, "{follow:?}");
    }
}

#[test]
fn it_looks_ahead_where_the_character_faces_little_by_little() {
    let numbers = CameraNumbers { ahead: 30.0, ahead_over: 0.5, still: DVec2::ZERO, ..numbers() };
    let mut camera = camera(&numbers);
    assert_eq!(corner(&camera), (430.0, 250.0));
    let (place, _) = at(500.0, 300.0);
    // From 30 px to the right to 30 to the left at a px a tick.
    for tick in 1..=60 {
        camera.follow(&(place, Facing::Left));
        assert_eq!(corner(&camera).0, 430.0 - f64::from(tick));
    }
    for _ in 0..10 {
        camera.follow(&(place, Facing::Left));
        assert_eq!(corner(&camera), (370.0, 250.0));
    }
    camera.follow(&(place, Facing::Up));
    assert_eq!(corner(&camera), (371.0, 249.0));
}

#[test]
fn whole_pixels_are_for_drawing_alone() {
    let numbers = CameraNumbers { still: DVec2::ZERO, scale: 3.0, ..numbers() };
    let mut camera = camera(&numbers);
    camera.follow(&at(500.5, 300.375));
    assert_eq!((corner(&camera), camera.drawn_from()), ((400.5, 250.375), DVec2::new(401.0, 250.0)));
    assert_eq!(camera.to_view(DVec2::new(411.0, 252.0)), DVec2::new(30.0, 6.0));
    assert_eq!(camera.to_world(DVec2::new(30.0, 6.0)), DVec2::new(411.0, 252.0));
    assert!(!camera.is_out_of_view(&at(395.6, 300.0).0));
    assert!(camera.is_out_of_view(&at(395.5, 300.0).0), "it only touches");
}

#[test]
fn wrong_numbers_are_refused() {
    let table = [
        (CameraNumbers::new(DVec2::new(0.0, 100.0)), CameraError::BadView),
        (CameraNumbers::new(DVec2::new(f64::NAN, 100.0)), CameraError::BadView),
        (CameraNumbers { still: DVec2::new(201.0, 0.0), ..numbers() }, CameraError::BadStill),
        (CameraNumbers { still: DVec2::new(0.0, -1.0), ..numbers() }, CameraError::BadStill),
        (CameraNumbers { ahead: 51.0, ..numbers() }, CameraError::BadAhead),
        (CameraNumbers { ahead_over: 0.0, ..numbers() }, CameraError::BadAhead),
        (CameraNumbers { scale: 0.0, ..numbers() }, CameraError::BadScale),
        (CameraNumbers { deadly_behind: true, ..numbers() }, CameraError::NothingBehind),
        (CameraNumbers { deadly_behind: true, follow: Follow::Sideways, ..numbers() }, CameraError::NothingBehind),
    ];
    for (numbers, error) in table {
        assert_eq!(Camera::new(&numbers, LEVEL, &at(0.0, 0.0), 60.0), Err(error), "{numbers:?}");
        assert!(!error.to_string().is_empty());
    }
}

fn told(camera: &mut Camera, x: f64, y: f64) -> Vec<String> {
    camera.follow(&at(x, y));
    camera.events().map(|event| event.to_string()).collect()
}

#[test]
fn it_tells_of_who_leaves_it_once_and_on_which_side() {
    // It follows to the right alone, from 400 to 600; up and down it stays from 250 to 350.
    let only_right = CameraNumbers { follow: Follow::OnlyRight, ..numbers() };
    let mut view = camera(&only_right);
    let way: [(f64, f64, &[&str]); 10] = [
        (395.5, 300.0, &[]),
        (395.0, 300.0, &["left-view:left"]),
        (390.0, 300.0, &[]),
        // Out of one side and round a corner: it never came back into view.
        (390.0, 200.0, &[]),
        (410.0, 241.0, &[]),
        (410.0, 240.0, &["left-view:top"]),
        (410.0, 300.0, &[]),
        (410.0, 400.0, &["left-view:bottom"]),
        (410.0, 300.0, &[]),
        // Of two sides at once the first.
        (300.0, 100.0, &["left-view:left"]),
    ];
    for (x, y, expected) in way {
        assert_eq!(told(&mut view, x, y), expected, "({x}, {y})");
    }
    // A cut tells nothing, and what is out of view after it is so since then.
    let mut view = camera(&only_right);
    view.follow(&at(0.0, 300.0));
    assert_eq!(view.events().collect::<Vec<_>>(), [ViewEvent::Left(Side::Left)]);
    view.look_at(&at(900.0, 300.0));
    assert_eq!(view.events().collect::<Vec<_>>(), [ViewEvent::Left(Side::Left)], "still of the last tick");
    assert_eq!(told(&mut view, 900.0, 300.0), Vec::<String>::new());
}

#[test]
fn what_never_goes_back_may_be_deadly_behind() {
    let table = [
        (Follow::OnlyRight, (0.0, 300.0), (900.0, 300.0), ["left-view:left", "died:view"]),
        (Follow::OnlyLeft, (1000.0, 300.0), (100.0, 300.0), ["left-view:right", "died:view"]),
        (Follow::OnlyUp, (500.0, 600.0), (500.0, 50.0), ["left-view:bottom", "died:view"]),
        (Follow::OnlyDown, (500.0, 0.0), (500.0, 550.0), ["left-view:top", "died:view"]),
    ];
    for (follow, (x, y), onward, expected) in table {
        let mut open = camera(&CameraNumbers { follow, ..numbers() });
        assert_eq!(told(&mut open, x, y), expected[..1], "{follow:?}");
        let deadly = CameraNumbers { follow, deadly_behind: true, ..numbers() };
        let mut view = camera(&deadly);
        assert_eq!(told(&mut view, onward.0, onward.1), Vec::<String>::new(), "{follow:?}: onward");
        assert_eq!(told(&mut view, x, y), expected, "{follow:?}");
        assert_eq!(told(&mut view, x, y), Vec::<String>::new(), "{follow:?}: told once");
    }
    // Behind is all that lies on that side, above and below the view, too.
    let mut view = camera(&CameraNumbers { follow: Follow::OnlyRight, deadly_behind: true, ..numbers() });
    assert_eq!(told(&mut view, 410.0, 100.0), ["left-view:top"]);
    assert_eq!(told(&mut view, 390.0, 100.0), ["died:view"]);
}

proptest! {
    /// Whatever it follows, and wherever that goes.
    #[test]
    fn the_laws_of_a_view(
        view in (20.0..400.0f64, 20.0..400.0f64),
        still in (0.0..1.0f64, 0.0..1.0f64),
        ahead in 0.0..1.0f64,
        follow in prop::sample::select(vec![
            Follow::Both, Follow::Sideways, Follow::Upright, Follow::OnlyLeft, Follow::OnlyRight, Follow::OnlyUp, Follow::OnlyDown,
        ]),
        (within_level, deadly, scale) in (any::<bool>(), any::<bool>(), 0.25..8.0f64),
        steps in prop::collection::vec((-40.0..40.0f64, -40.0..40.0f64, 0usize..4), 1..60),
        seen in (-2000.0..2000.0f64, -2000.0..2000.0f64),
    ) {
        let view = DVec2::new(view.0, view.1);
        let numbers = CameraNumbers {
            view,
            follow,
            still: DVec2::new(still.0 * view.x, still.1 * view.y),
            ahead: ahead * view.min_element() * 0.5,
            ahead_over: 0.3,
            within_level,
            deadly_behind: deadly && follow.behind().is_some(),
            scale,
        };
        let mut place = DVec2::new(500.0, 300.0);
        let mut camera = Camera::new(&numbers, LEVEL, &at(place.x, place.y), 60.0).unwrap();
        let mut old_place = at(place.x, place.y).0;
        for (x, y, facing) in steps {
            place += DVec2::new(x, y);
            let target = (at(place.x, place.y).0, Facing::ALL[facing]);
            let before = camera;
            camera.follow(&target);
            let (old, now) = (before.view(), camera.view());
            let one_way = match follow {
                Follow::OnlyLeft => now.left <= old.left,
                Follow::OnlyRight => now.left >= old.left,
                Follow::OnlyUp => now.top <= old.top,
                Follow::OnlyDown => now.top >= old.top,
                _ => true,
            };
            prop_assert!(one_way, "{before:?} {camera:?}");
            if within_level {
                let fits = (now.left >= 0.0 || view.x >= 1000.0) && (now.top >= 0.0 || view.y >= 600.0);
                prop_assert!(fits && now.right <= 1000.0 + 1e-9 && now.bottom <= 600.0 + 1e-9, "{camera:?}");
            }
            // Told is what was in view before, by the view of the tick.
            let (was_out, is_out) = (before.is_out_of_view(&old_place), camera.is_out_of_view(&target.0));
            let left = camera.events().any(|event| matches!(event, ViewEvent::Left(_)));
            prop_assert_eq!(left, is_out && !was_out);
            prop_assert_eq!(is_out, !now.overlaps(&target.0));
            old_place = target.0;
            if camera.events().any(|event| event == ViewEvent::Died) {
                prop_assert!(numbers.deadly_behind && is_out);
            }
            // One is the other's inverse.
            let screen = DVec2::new(seen.0, seen.1);
            prop_assert!((camera.to_view(camera.to_world(screen)) - screen).abs().max_element() < 1e-9 * 8000.0);
            prop_assert!((camera.drawn_from() - DVec2::new(now.left, now.top)).abs().max_element() <= 0.5);
            // The view moves no further than what it looks at, and looks ahead; and of a target at rest it comes to rest, to the bit.
            let mut resting = camera;
            (0..40).for_each(|_| resting.follow(&target));
            let rest = resting;
            resting.follow(&target);
            prop_assert_eq!(resting, rest);
        }
    }
}

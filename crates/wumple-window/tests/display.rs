//! The program itself, under a virtual display, with the keys and the mouse of one: where there is `Xvfb`, `xdotool` and `import`.

use std::io::Read;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::{Mutex, MutexGuard, PoisonError};
use std::thread::sleep;
use std::time::{Duration, Instant};

use wumple::why::WhyLog;
use wumple::{ButtonsFile, Level, TuningFile, demo};

/// A virtual display, and what was started on it.
struct Display {
    name: String,
    server: Child,
    /// One at a time: two servers that begin at once may take the same number.
    _alone: MutexGuard<'static, ()>,
}

static ALONE: Mutex<()> = Mutex::new(());

impl Drop for Display {
    fn drop(&mut self) {
        // Not killed: it would leave its number taken.
        let _ = Command::new("kill").arg(self.server.id().to_string()).status();
        let _ = self.server.wait();
    }
}

impl Display {
    /// None where there is none to be had.
    fn start() -> Option<Display> {
        let alone = ALONE.lock().unwrap_or_else(PoisonError::into_inner);
        for program in ["Xvfb", "xdotool", "import"] {
            if Command::new("sh")
                .args(["-c", &format!("command -v {program}")])
                .stdout(Stdio::null())
                .status()
                .ok()?
                .code()
                != Some(0)
            {
                eprintln!("skipped: there is no {program} here");
                return None;
            }
        }
        let mut server = Command::new("Xvfb")
            // Else it starts anew whenever nobody is connected, and refuses who comes just then.
            .args(["-displayfd", "1", "-noreset", "-screen", "0", "1400x900x24"])
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .ok()?;
        let mut number = String::new();
        let mut output = server.stdout.take()?;
        let mut byte = [0];
        while output.read(&mut byte).is_ok_and(|read| read == 1) && byte[0] != b'\n' {
            number.push(char::from(byte[0]));
        }
        let display = Display { name: format!(":{}", number.trim()), server, _alone: alone };
        wait_for("the display answers", || !display.run("xdotool", &["getdisplaygeometry"]).is_empty());
        Some(display)
    }

    fn run(&self, program: &str, arguments: &[&str]) -> String {
        let output = Command::new(program).args(arguments).env("DISPLAY", &self.name).output().expect("it can be run");
        String::from_utf8_lossy(&output.stdout).trim().to_owned()
    }

    fn xdotool(&self, words: &str) {
        self.run("xdotool", &words.split(' ').collect::<Vec<_>>());
        sleep(Duration::from_millis(40));
    }
}

/// The program on a display, with its window in the corner and the keyboard in its hand.
struct Program<'a> {
    display: &'a Display,
    child: Child,
    window: String,
}

impl Drop for Program<'_> {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

impl<'a> Program<'a> {
    fn start(display: &'a Display, folder: &Path, arguments: &[&str]) -> Program<'a> {
        let child = Command::new(env!("CARGO_BIN_EXE_wumple-window"))
            .args(arguments)
            .current_dir(folder)
            .env("DISPLAY", &display.name)
            .env_remove("WAYLAND_DISPLAY")
            .env("LIBGL_ALWAYS_SOFTWARE", "1")
            .spawn()
            .expect("the program is there");
        let since = Instant::now();
        let window = loop {
            let found = display.run("xdotool", &["search", "--name", "^Wumple$"]);
            if let Some(first) = found.lines().next() {
                break first.to_owned();
            }
            assert!(since.elapsed() < Duration::from_secs(60), "no window came");
            sleep(Duration::from_millis(200));
        };
        sleep(Duration::from_secs(2));
        display.xdotool(&format!("windowmove {window} 0 0"));
        display.xdotool(&format!("windowfocus {window}"));
        sleep(Duration::from_millis(300));
        Program { display, child, window }
    }

    fn drag(&self, from: (i32, i32), to: (i32, i32)) {
        self.display.xdotool(&format!("mousemove {} {}", from.0, from.1));
        self.display.xdotool("mousedown 1");
        for share in 1..=4 {
            let at = |from: i32, to: i32| from + (to - from) * share / 4;
            self.display.xdotool(&format!("mousemove {} {}", at(from.0, to.0), at(from.1, to.1)));
        }
        sleep(Duration::from_millis(200));
    }

    fn drop_it(&self) {
        self.display.xdotool("mouseup 1");
    }

    /// How many colours its picture has; the picture is kept beside the tests' other results.
    fn colours(&self, name: &str) -> usize {
        let path = PathBuf::from(env!("CARGO_TARGET_TMPDIR")).join(format!("{name}.png"));
        let path = path.to_str().expect("a plain path");
        self.display.run("import", &["-window", &self.window, path]);
        self.display.run("identify", &["-format", "%k", path]).parse().unwrap_or(0)
    }
}

impl Program<'_> {
    /// The topmost place of about this colour in a part of the window: left, top, width, height.
    fn first_of_colour(&self, colour: (i32, i32, i32), part: (i32, i32, i32, i32)) -> Option<(i32, i32)> {
        let crop = format!("{}x{}+{}+{}", part.2, part.3, part.0, part.1);
        let pixels = self.display.run("import", &["-window", &self.window, "-crop", &crop, "-depth", "8", "txt:-"]);
        pixels.lines().find_map(|line| {
            // 12,34: (181,72,42)  #B5482A  ...
            let (place, rest) = line.split_once(": (")?;
            let (x, y) = place.split_once(',')?;
            let mut parts = rest.split([',', ')']).map(|part| part.trim().parse::<i32>());
            let mut is_near = |of: i32| parts.next().and_then(Result::ok).is_some_and(|part| (part - of).abs() < 24);
            let is_it = is_near(colour.0) && is_near(colour.1) && is_near(colour.2);
            is_it.then_some((part.0 + x.parse::<i32>().ok()?, part.1 + y.parse::<i32>().ok()?))
        })
    }
}

fn wait_for(what: &str, mut is_so: impl FnMut() -> bool) {
    let since = Instant::now();
    while !is_so() {
        assert!(since.elapsed() < Duration::from_secs(20), "{what}");
        sleep(Duration::from_millis(200));
    }
}

/// The slider of the height, where the panel is searched for it: the body has one, too, and is folded.
const SLIDER: (i32, i32) = (1069, 166);

impl Program<'_> {
    /// Only keys with this in their name are shown.
    fn search(&self, words: &str) {
        self.display.xdotool("mousemove 1000 65 click 1");
        self.display.xdotool("key ctrl+a");
        self.display.xdotool(&format!("type {words}"));
        self.display.xdotool("key Escape");
        sleep(Duration::from_millis(300));
    }

    /// An entry of the menu "Keep", by its height.
    fn keep(&self, y: i32) {
        self.display.xdotool("mousemove 816 12 click 1");
        sleep(Duration::from_millis(300));
        self.display.xdotool(&format!("mousemove 842 {y}"));
        self.display.xdotool("click 1");
        sleep(Duration::from_millis(300));
    }
}

/// The pages of the guide, `33-the-window.md` and `34-a-lost-press.md`, step by step.
#[test]
fn a_first_jump_is_tuned_and_a_lost_press_is_gone_back_to() {
    const WHAT_WAS_HELD: i32 = 121;
    const EVERY_TICK: i32 = 145;
    let Some(display) = Display::start() else { return };
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name);
    std::fs::write(path("room.level.toml"), demo::THROWING_ROOM).unwrap();
    std::fs::write(path("dab.tuning.toml"), demo::DAB).unwrap();
    let tuning = || std::fs::read_to_string(path("dab.tuning.toml")).unwrap();
    let program = Program::start(&display, folder.path(), &["room.level.toml"]);
    assert!(program.colours("started") > 20, "something is drawn");

    // Play; start again; run, jump, land.
    display.xdotool("keydown Right");
    sleep(Duration::from_millis(400));
    display.xdotool("key space");
    sleep(Duration::from_millis(500));
    display.xdotool("keyup Right");
    display.xdotool("key r");
    display.xdotool("keydown Right");
    sleep(Duration::from_millis(300));
    display.xdotool("key space");
    sleep(Duration::from_millis(500));
    display.xdotool("keyup Right");
    let played = program.colours("played");
    assert!(played > 30, "a path and its words: {played}");
    // Drag a number; take it back; drag it again; keep it.
    program.search("height");
    program.drag(SLIDER, (1095, 166));
    program.drop_it();
    display.xdotool("key ctrl+z");
    display.xdotool("key ctrl+s");
    sleep(Duration::from_millis(500));
    assert_eq!(tuning(), demo::DAB, "taken back, there is nothing to keep");
    program.drag(SLIDER, (1085, 166));
    program.colours("dragged");
    program.drop_it();
    display.xdotool("key ctrl+s");
    wait_for("the number is kept", || tuning() != demo::DAB);
    let changed = |old: &str| -> Vec<String> {
        let new = tuning();
        new.lines().zip(old.lines()).filter(|(new, old)| new != old).map(|(new, _)| new.to_owned()).collect()
    };
    assert!(matches!(&changed(demo::DAB)[..], [line] if line.starts_with("height")), "{:?}", changed(demo::DAB));

    // Press jump once more than there are jumps; stop; go back; play on; what was played then is a run of the joined buttons.
    display.xdotool("key r");
    display.xdotool("keydown Right");
    sleep(Duration::from_millis(700));
    for _ in 0..3 {
        display.xdotool("key space");
        sleep(Duration::from_millis(110));
    }
    sleep(Duration::from_millis(300));
    display.xdotool("keyup Right");
    display.xdotool("key p");
    program.keep(WHAT_WAS_HELD);
    wait_for("the buttons are written", || path("room-1.buttons").exists());
    let whole = std::fs::read_to_string(path("room-1.buttons")).unwrap();
    assert_eq!(whole.lines().filter(|line| line.contains("jump")).count(), 3, "{whole}");
    program.drag((620, 745), (560, 745));
    program.colours("back");
    program.drop_it();
    display.xdotool("key p");
    sleep(Duration::from_millis(400));
    display.xdotool("key p");
    program.keep(WHAT_WAS_HELD);
    program.keep(EVERY_TICK);
    wait_for("the trace is written", || path("room-1.csv").exists());
    let joined = std::fs::read_to_string(path("room-2.buttons")).unwrap();
    assert_ne!(joined, whole);
    let numbers = TuningFile::parse("dab", &tuning()).unwrap();
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let held = ButtonsFile::parse("joined", &joined, &numbers.scale).unwrap().at_rate(60.0).unwrap().0;
    let trace = std::fs::read_to_string(path("room-1.csv")).unwrap();
    let fresh = wumple::run(&level, &numbers.tuning, &held, trace.lines().count() as u64 - 2).unwrap();
    assert_eq!(trace, fresh.to_csv(), "to the bit");

    // The red line of a lost press is clicked: the window is at the tick of that press, and a step plays on from there.
    let lost = (3..8).find_map(|number| {
        // On a machine that is busy presses come so late that each finds a jump: then once more.
        display.xdotool("key r");
        display.xdotool("keydown Right");
        sleep(Duration::from_millis(300));
        for _ in 0..4 {
            display.xdotool("key space");
            sleep(Duration::from_millis(60));
        }
        display.xdotool("keyup Right");
        sleep(Duration::from_millis(400));
        display.xdotool("key p");
        program.keep(WHAT_WAS_HELD);
        let path = path(&format!("room-{number}.buttons"));
        wait_for("the buttons are written", || path.exists());
        let text = std::fs::read_to_string(path).unwrap();
        let held = ButtonsFile::parse("lost", &text, &numbers.scale).unwrap().at_rate(60.0).unwrap().0;
        let mut log = WhyLog::default();
        wumple::run_told(&level, &numbers.tuning, &held, held.ticks_to_run(60.0), &mut log).unwrap();
        log.presses().iter().find(|press| press.led_to == "nothing").cloned()
    });
    let lost = lost.expect("one of four presses leads to nothing");
    let (x, y) = program.first_of_colour((0xB5, 0x48, 0x2A), (942, 620, 330, 175)).expect("a red line stands there");
    display.xdotool(&format!("mousemove {} {}", x + 20, y + 3));
    display.xdotool("click 1");
    sleep(Duration::from_millis(300));
    program.colours("lost");
    display.xdotool("key n");
    program.keep(EVERY_TICK);
    wait_for("the trace is written", || path("room-2.csv").exists());
    let rows = std::fs::read_to_string(path("room-2.csv")).unwrap().lines().count() as u64 - 2;
    assert_eq!(rows, lost.pressed_tick + 1, "{lost:?}");

    // A file that another program changes is read: what is kept next has it.
    let other = tuning().replace("top_speed = \"7.5 tiles/s\"", "top_speed = \"7 tiles/s\"");
    std::fs::write(path("dab.tuning.toml"), &other).unwrap();
    sleep(Duration::from_millis(800));
    program.search("coyote");
    program.drag((1046, 142), (1080, 142));
    program.drop_it();
    display.xdotool("key ctrl+s");
    wait_for("both are kept", || tuning() != other && tuning().contains("\"7 tiles/s\""));
    assert!(matches!(&changed(&other)[..], [line] if line.starts_with("coyote_time")), "{:?}", changed(&other));
}

#[test]
fn without_arguments_the_demo_is_opened_and_wrong_ones_are_said() {
    let program = env!("CARGO_BIN_EXE_wumple-window");
    let folder = tempfile::tempdir().unwrap();
    let failed = |arguments: &[&str]| {
        let output = Command::new(program)
            .args(arguments)
            .current_dir(folder.path())
            .env_remove("DISPLAY")
            .env_remove("WAYLAND_DISPLAY")
            .output();
        let output = output.unwrap();
        assert!(!output.status.success());
        String::from_utf8_lossy(&output.stderr).into_owned()
    };
    assert!(failed(&["nowhere.level.toml"]).contains("no *.tuning.toml"));
    assert!(failed(&["nowhere.level.toml", "--tuning", "none.tuning.toml"]).contains("nowhere.level.toml"));
    assert!(failed(&["--size", "12"]).contains("1280x800"));
    std::fs::write(folder.path().join("room.level.toml"), "[map]\nrows = '''\n@\n#\n'''\nfloor = 2\n").unwrap();
    std::fs::write(folder.path().join("dab.tuning.toml"), demo::DAB).unwrap();
    assert!(failed(&["room.level.toml"]).contains("floor"));
    assert!(failed(&[]).contains("no window can be opened"), "without a display it says so");
    let Some(display) = Display::start() else { return };
    let demo = Program::start(&display, folder.path(), &["--dark", "--size", "1024x700"]);
    assert!(demo.colours("dark") > 20);
    let measured = Command::new(program)
        .args(["--measure", "3"])
        .env("DISPLAY", &display.name)
        .env_remove("WAYLAND_DISPLAY")
        .env("LIBGL_ALWAYS_SOFTWARE", "1")
        .output()
        .unwrap();
    assert!(String::from_utf8_lossy(&measured.stdout).contains("frames,"), "{measured:?}");
}

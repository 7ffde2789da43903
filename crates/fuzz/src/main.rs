//! Feeds every reader, and the tick, with spoiled input, until the time is up or something breaks.
//!
//! ```text
//! cargo run --release -p wumple-fuzz -- [--seconds 60] [--seed 1] [--target NAME] [FILE ...]
//! ```
//!
//! It begins with the files of `corpus/`, and spoils them: bytes and numbers are changed, lines are doubled, cut, or
//! taken from another file. The same seed spoils in the same way. What breaks is written to `found/` and told; given
//! FILEs, each is tried as it is.
//!
//! Something breaks if a reader panics, takes longer than [`LONGEST`], says more than [`MOST_SAID`], or does not read
//! back what was written; or if a world is not as it must be after a tick.

mod spoil;
mod targets;

use std::io::Write;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};
use std::{env, fs, thread};

use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::SeedableRng;

use spoil::spoiled;
use targets::{TARGETS, Target};

/// No input may take longer.
const LONGEST: Duration = Duration::from_secs(10);
/// No errors of one input may be longer, bytes.
const MOST_SAID: usize = 1 << 20;

struct Options {
    seconds: u64,
    seed: u64,
    target: Option<String>,
    files: Vec<PathBuf>,
}

fn main() -> ExitCode {
    let options = match options() {
        Ok(options) => options,
        Err(wrong) => return told(&wrong),
    };
    let targets: Vec<&Target> =
        TARGETS.iter().filter(|target| options.target.as_ref().is_none_or(|name| name == target.name)).collect();
    if targets.is_empty() {
        return told("there is no such target");
    }
    let watched = Arc::new(Mutex::new(None));
    watch(&watched);
    let mut broken = 0;
    for target in &targets {
        let began = Instant::now();
        let share = Duration::from_secs(options.seconds) / targets.len() as u32;
        let corpus = corpus_of(target);
        if corpus.is_empty() {
            return told(&format!("corpus/{} is empty", target.name));
        }
        let mut tried = 0_u64;
        let given = options.files.iter().filter_map(|file| fs::read(file).ok());
        for input in corpus.iter().cloned().chain(given) {
            broken += u32::from(!holds(target, &input, &watched));
            tried += 1;
        }
        let mut random = ChaCha8Rng::seed_from_u64(options.seed);
        while options.files.is_empty() && began.elapsed() < share {
            broken += u32::from(!holds(target, &spoiled(&corpus, &mut random), &watched));
            tried += 1;
        }
        say(&format!("{:9} {tried} inputs", target.name));
    }
    if broken == 0 {
        ExitCode::SUCCESS
    } else {
        told(&format!("{broken} inputs broke something: see crates/fuzz/found"))
    }
}

fn options() -> Result<Options, String> {
    let mut options = Options { seconds: 60, seed: 1, target: None, files: Vec::new() };
    let mut arguments = env::args().skip(1);
    while let Some(argument) = arguments.next() {
        let mut number =
            || arguments.next().and_then(|text| text.parse().ok()).ok_or(format!("{argument} needs a number"));
        match argument.as_str() {
            "--seconds" => options.seconds = number()?,
            "--seed" => options.seed = number()?,
            "--target" => options.target = Some(arguments.next().unwrap_or_default()),
            _ => options.files.push(PathBuf::from(argument)),
        }
    }
    Ok(options)
}

fn corpus_of(target: &Target) -> Vec<Vec<u8>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("corpus").join(target.corpus);
    let Ok(entries) = fs::read_dir(folder) else { return Vec::new() };
    let mut paths: Vec<PathBuf> = entries.flatten().map(|entry| entry.path()).collect();
    paths.sort();
    paths.iter().filter_map(|path| fs::read(path).ok()).collect()
}

/// What is being tried, and since when.
type Watched = Arc<Mutex<Option<(&'static str, Vec<u8>, Instant)>>>;

/// Whether a target stands this input.
fn holds(target: &Target, input: &[u8], watched: &Watched) -> bool {
    let began = Instant::now();
    *watched.lock().expect("nobody panics with it") = Some((target.name, input.to_vec(), began));
    let done = catch_unwind(AssertUnwindSafe(|| (target.run)(input)));
    *watched.lock().expect("nobody panics with it") = None;
    let wrong = match done {
        Err(_) => String::from("panics"),
        Ok(Err(wrong)) => wrong,
        Ok(Ok(said)) if said > MOST_SAID => format!("says {said} bytes"),
        Ok(Ok(_)) if began.elapsed() > LONGEST => format!("takes {:?}", began.elapsed()),
        Ok(Ok(_)) => return true,
    };
    keep(target.name, input, &wrong);
    false
}

/// Writes down an input that breaks something.
fn keep(target: &str, input: &[u8], wrong: &str) {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("found");
    let name =
        format!("{target}-{:08x}", input.iter().fold(0_u32, |sum, byte| sum.wrapping_mul(31) ^ u32::from(*byte)));
    let _ = fs::create_dir_all(&folder);
    let _ = fs::write(folder.join(&name), input);
    say(&format!("{target}: {name} {wrong}"));
}

/// Tells of an input that never comes to an end, and ends the program.
fn watch(watched: &Watched) {
    let watched = watched.clone();
    thread::spawn(move || {
        loop {
            thread::sleep(LONGEST / 4);
            let now = watched.lock().expect("nobody panics with it").clone();
            if let Some((target, input, _)) = now.filter(|(.., began)| began.elapsed() > 2 * LONGEST) {
                keep(target, &input, "comes to no end");
                std::process::exit(1);
            }
        }
    });
}

fn say(words: &str) {
    let _ = writeln!(std::io::stderr(), "{words}");
}

fn told(words: &str) -> ExitCode {
    say(words);
    ExitCode::from(1)
}

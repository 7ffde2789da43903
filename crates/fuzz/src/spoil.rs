//! Input that is nearly right.

use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::RngCore;

/// No input is longer, bytes.
const LONGEST: usize = 1 << 16;

/// Numbers that are at an end of something.
const NUMBERS: [&str; 26] = [
    "0",
    "-0",
    "1",
    "-1",
    "2",
    "0.5",
    "1e-9",
    "1e-300",
    "5e-324",
    "1e9",
    "1e15",
    "1e300",
    "1.7976931348623157e308",
    "inf",
    "nan",
    "-inf",
    "64",
    "255",
    "256",
    "524288",
    "1000000",
    "1e12",
    "0.0009765625",
    "16",
    "10000",
    "4294967296",
];

/// Pieces that mean something to one reader or another.
const PIECES: [&str; 34] = [
    "\n",
    "\r\n",
    "\"",
    "'''",
    "[",
    "]",
    "[[block]]\n",
    "[[platform]]\n",
    "[[prop]]\n",
    "[[ramp]]\n",
    "{",
    "}",
    "=",
    "#",
    "@",
    ";",
    ",",
    "+",
    "-",
    "tiles",
    "px/frame",
    " s",
    "instant",
    "rate ",
    "right=0.5",
    "landed:",
    "platform:",
    "\u{1b}]0;x\u{7}",
    "\u{202e}",
    "\u{0}",
    "ä",
    "[jump]\n",
    "[wall]\n",
    "true",
];

/// One of the inputs, spoiled once or several times.
pub(crate) fn spoiled(corpus: &[Vec<u8>], random: &mut ChaCha8Rng) -> Vec<u8> {
    let mut input = corpus[below(random, corpus.len())].clone();
    for _ in 0..=below(random, 6) {
        spoil(&mut input, corpus, random);
    }
    input.truncate(LONGEST);
    input
}

fn below(random: &mut ChaCha8Rng, count: usize) -> usize {
    (random.next_u64() % count.max(1) as u64) as usize
}

fn spoil(input: &mut Vec<u8>, corpus: &[Vec<u8>], random: &mut ChaCha8Rng) {
    let at = below(random, input.len() + 1);
    match below(random, 9) {
        0 if at < input.len() => input[at] ^= 1 << below(random, 8),
        1 => insert(input, at, PIECES[below(random, PIECES.len())].as_bytes()),
        2 | 3 => change_number(input, random),
        4 => {
            let end = (at + 1 + below(random, 12)).min(input.len());
            input.drain(at..end);
        }
        5 => {
            let line = line_at(input, at);
            insert(input, at, &line.repeat(1 + below(random, 3)));
        }
        6 => {
            let other = &corpus[below(random, corpus.len())];
            let line = line_at(other, below(random, other.len() + 1));
            insert(input, at, &line);
        }
        7 => {
            let line = line_at(input, at);
            let start = input.windows(line.len().max(1)).position(|part| part == line).unwrap_or(0);
            input.drain(start..(start + line.len()).min(input.len()));
        }
        _ => change_number(input, random),
    }
}

fn insert(input: &mut Vec<u8>, at: usize, piece: &[u8]) {
    input.splice(at..at, piece.iter().copied());
}

/// The line around a place, with its end.
fn line_at(text: &[u8], at: usize) -> Vec<u8> {
    let start = text[..at].iter().rposition(|byte| *byte == b'\n').map_or(0, |end| end + 1);
    let end = text[at..].iter().position(|byte| *byte == b'\n').map_or(text.len(), |end| at + end + 1);
    text[start..end].to_vec()
}

/// Puts another number in the place of one.
fn change_number(input: &mut Vec<u8>, random: &mut ChaCha8Rng) {
    let is_digit = |byte: u8| byte.is_ascii_digit() || byte == b'.';
    let starts: Vec<usize> =
        (0..input.len()).filter(|at| input[*at].is_ascii_digit() && (*at == 0 || !is_digit(input[*at - 1]))).collect();
    if starts.is_empty() {
        return;
    }
    let start = starts[below(random, starts.len())];
    let end = input[start..].iter().position(|byte| !is_digit(*byte)).map_or(input.len(), |end| start + end);
    let number = match below(random, 3) {
        0 => NUMBERS[below(random, NUMBERS.len())].to_owned(),
        1 => {
            let old: f64 = String::from_utf8_lossy(&input[start..end]).parse().unwrap_or(1.0);
            let by = [0.1, 0.5, 0.9, 1.1, 2.0, 10.0, 100.0][below(random, 7)];
            (old * by).to_string()
        }
        _ => below(random, 1000).to_string(),
    };
    input.splice(start..end, number.bytes());
}

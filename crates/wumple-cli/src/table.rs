//! Tables for people.

use comfy_table::{CellAlignment, LineStyle, Table, TableStyle};

const LINE_UNDER_HEAD: TableStyle = TableStyle::new().header_separator(LineStyle::none().fill('─').junction('─'));

/// How wide a table may be where nobody says: not on a terminal, and no COLUMNS set.
const USUAL_WIDTH: usize = 80;
/// A column of words is not made narrower.
const NARROWEST: usize = 20;

/// How many letters a line may have.
pub(crate) fn width() -> usize {
    let told = || std::env::var("COLUMNS").ok().and_then(|columns| columns.parse().ok());
    let terminal = terminal_size::terminal_size().map(|(width, _)| usize::from(width.0));
    told().or(terminal).unwrap_or(USUAL_WIDTH).max(40)
}

/// A table for people that fits their terminal: a line under its head, numbers to the right.
pub(crate) fn table(head: &[&str], rows: impl IntoIterator<Item = Vec<String>>) -> String {
    table_within(width(), head, rows.into_iter().collect())
}

/// Too wide, its columns of words are broken into lines; if that does not do, it becomes several, each with the
/// first columns.
fn table_within(width: usize, head: &[&str], mut rows: Vec<Vec<String>>) -> String {
    let is_number =
        |cell: &str| cell.is_empty() || cell.starts_with(|letter: char| letter.is_ascii_digit() || letter == '-');
    let numeric: Vec<bool> = (0..head.len()).map(|column| rows.iter().all(|row| is_number(&row[column]))).collect();
    let letters = |text: &str| text.chars().count();
    let widths: Vec<usize> = (0..head.len())
        .map(|column| rows.iter().map(|row| letters(&row[column])).chain([letters(head[column])]).max().unwrap_or(0))
        .collect();
    // A blank before, and three between.
    let total = |columns: &[usize]| columns.iter().map(|column| widths[*column] + 3).sum::<usize>().saturating_sub(1);
    let all: Vec<usize> = (0..head.len()).collect();
    // A block of columns, with its words in lines if need be.
    let mut block = |columns: &[usize]| {
        let over = total(columns).saturating_sub(width);
        let widest = columns.iter().copied().filter(|column| !numeric[*column]).max_by_key(|column| widths[*column]);
        if let Some(column) = widest.filter(|column| over > 0 && widths[*column] >= over + NARROWEST) {
            rows.iter_mut().for_each(|row| row[column] = in_lines(&row[column], widths[column] - over));
            return (true, plain_table(head, &rows, &numeric, columns));
        }
        (over == 0, plain_table(head, &rows, &numeric, columns))
    };
    let (fits, whole) = block(&all);
    if fits {
        return whole;
    }
    let keys = numeric.iter().position(|numeric| *numeric).unwrap_or(1).max(1).min(head.len());
    let mut tables = Vec::new();
    let mut columns: Vec<usize> = (0..keys).collect();
    for column in keys..head.len() {
        if columns.len() > keys && total(&[&columns[..], &[column]].concat()) > width {
            tables.push(block(&columns).1);
            columns.truncate(keys);
        }
        columns.push(column);
    }
    tables.push(block(&columns).1);
    tables.join("\n")
}

fn plain_table(head: &[&str], rows: &[Vec<String>], numeric: &[bool], columns: &[usize]) -> String {
    let mut table = Table::new();
    table.load_style(LINE_UNDER_HEAD).set_header(columns.iter().map(|column| head[*column]));
    for row in rows {
        table.add_row(columns.iter().map(|column| &row[*column]));
    }
    for (column, index) in table.column_iter_mut().zip(columns) {
        column.set_cell_alignment(if numeric[*index] { CellAlignment::Right } else { CellAlignment::Left });
    }
    table.trim_fmt() + "\n"
}

/// A cell in lines of so many letters, broken between words.
fn in_lines(cell: &str, width: usize) -> String {
    let mut lines = vec![String::new()];
    for word in cell.split(' ') {
        let line = lines.last_mut().expect("there is one");
        if line.is_empty() || line.chars().count() + 1 + word.chars().count() <= width {
            *line += if line.is_empty() { "" } else { " " };
            *line += word;
        } else {
            lines.push(word.to_owned());
        }
    }
    lines.join("\n")
}

#[cfg(test)]
mod tests {
    use super::*;

    fn rows() -> Vec<Vec<String>> {
        let row = |jump: &str, numbers: [&str; 4], words: &str| {
            [vec![jump.to_owned()], numbers.map(str::to_owned).into(), vec![words.to_owned()]].concat()
        };
        vec![
            row("tap", ["1.2", "19.2", "0.208", "13"], "landed:256, entered:pickup, and other things that take room"),
            row("running", ["3.401", "54.419", "0.36", "22"], "lost-ground"),
        ]
    }

    const HEAD: [&str; 6] = ["jump", "height tiles", "px", "apex s", "tick", "events"];

    #[test]
    fn a_table_fits_or_breaks_its_words_or_becomes_several() {
        let wide = table_within(200, &HEAD, rows());
        assert_eq!(wide.lines().count(), 4);
        let broken = table_within(80, &HEAD, rows());
        assert_eq!(broken.lines().count(), 6, "{broken}");
        let several = table_within(40, &HEAD, rows());
        assert!(several.matches("jump").count() == 3 && several.matches("running").count() == 3, "{several}");
        for (width, text) in [(200, &wide), (80, &broken), (40, &several)] {
            let longest = text.lines().map(|line| line.chars().count()).max().unwrap();
            assert!(longest <= width, "{longest} in {width}:\n{text}");
            assert!(text.contains("54.419") && text.contains("lost-ground"));
        }
        assert!(
            table_within(60, &HEAD[..5], rows().into_iter().map(|row| row[..5].to_vec()).collect()).lines().count()
                == 4
        );
    }
}

//! The program `wumple`: arguments, tables, paths and exit status. Everything is computed in the library.

mod commands;
mod failure;
mod files;
mod junit;
mod long_work;
mod options;
mod output;
mod pictures;
mod say;
mod script;
mod table;
mod watch;

use std::process::ExitCode;

use clap::{ColorChoice, CommandFactory, Parser, Subcommand};

/// Tunes the characters of platform games: runs them, measures their jumps, draws both.
#[derive(Parser)]
#[command(
    name = "wumple",
    version,
    after_help = "Start with `wumple demo`, or `wumple new FOLDER`. Every command has --help with an example.\n\
                  Exit status: 0 done; 1 a check found something; 2 the command or a file is wrong."
)]
struct Arguments {
    /// Say on standard error what is being done
    #[arg(short, long, global = true)]
    verbose: bool,
    /// Whether results are coloured, and files in them links; `auto` is on a terminal, and without NO_COLOR
    #[arg(
        long,
        global = true,
        value_enum,
        default_value_t,
        hide_possible_values = true,
        value_name = "auto|always|never"
    )]
    color: ColorChoice,
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    New(commands::new::New),
    Demo(commands::demo::Demo),
    Arcs(commands::arcs::Arcs),
    Fit(commands::fit::Fit),
    Convert(commands::convert::Convert),
    Run(commands::run::Run),
    Check(commands::check::Check),
    Reach(commands::reach::ReachCommand),
    Vary(commands::vary::VaryCommand),
    Course(commands::course::CourseCommand),
    Match(commands::match_recording::MatchCommand),
    Compare(commands::compare::Compare),
    Buttons(commands::buttons::Buttons),
    Draw(commands::draw::Draw),
    Trial(commands::trial::Trial),
    Completions(commands::completions::Completions),
    Manual(commands::manual::Manual),
    Schemas(commands::schemas::Schemas),
}

/// Ctrl-C and the like: long work ends with what it has; else what is half written is removed.
fn leave_nothing_when_interrupted() {
    let interrupted = || {
        if !long_work::interrupt_ends() {
            return;
        }
        wumple::files::remove_unfinished();
        // 128 and the number of the signal, as shells say it.
        std::process::exit(130);
    };
    if let Err(error) = ctrlc::set_handler(interrupted) {
        tracing::debug!(%error, "interrupts are not handled");
    }
}

fn main() -> ExitCode {
    let arguments = Arguments::parse();
    leave_nothing_when_interrupted();
    match arguments.color {
        ColorChoice::Auto => {}
        ColorChoice::Always => anstream::ColorChoice::Always.write_global(),
        ColorChoice::Never => anstream::ColorChoice::Never.write_global(),
    }
    if arguments.verbose {
        let log = tracing_subscriber::fmt().with_writer(std::io::stderr).without_time();
        log.with_max_level(tracing::Level::DEBUG).init();
    }
    let done = match &arguments.command {
        Command::New(new) => new.execute(),
        Command::Demo(demo) => demo.execute(),
        Command::Arcs(arcs) => arcs.execute(),
        Command::Fit(fit) => fit.execute(),
        Command::Convert(convert) => convert.execute(),
        Command::Run(run) => run.execute(),
        Command::Check(check) => check.execute(),
        Command::Reach(reach) => reach.execute(),
        Command::Vary(vary) => vary.execute(),
        Command::Course(course) => course.execute(),
        Command::Match(matching) => matching.execute(),
        Command::Compare(compare) => compare.execute(),
        Command::Buttons(buttons) => buttons.execute(),
        Command::Draw(draw) => draw.execute(),
        Command::Trial(trial) => trial.execute(),
        Command::Completions(completions) => completions.execute(Arguments::command()),
        Command::Manual(manual) => manual.execute(Arguments::command()),
        Command::Schemas(schemas) => schemas.execute(),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(failure) => failure.report(),
    }
}

//! `calc`: the calculators on the command line.
use std::io::{self, Read, Write};
use std::process::ExitCode;

use clap::Args;
use jagged_pin_core::calc::answer;
use serde_json::Value;

/// Exit status when a request was refused.
const REFUSED: u8 = 2;

#[derive(Args)]
pub struct Calc {
    /// Name of the calculator.
    name: String,
    /// One request per line of input; every answer in its place.
    #[arg(long)]
    lines: bool,
}

impl Calc {
    pub fn run(&self) -> ExitCode {
        match self.answer_all() {
            Ok(true) => ExitCode::SUCCESS,
            Ok(false) => ExitCode::from(REFUSED),
            Err(error) => super::fail(&error.to_string()),
        }
    }

    /// Whether every request was answered.
    fn answer_all(&self) -> io::Result<bool> {
        let mut input = Vec::new();
        io::stdin().lock().read_to_end(&mut input)?;
        // What is no UTF-8 is no JSON either: the calculator says so in its place.
        let input = String::from_utf8_lossy(&input);
        let requests: Vec<&str> = match self.lines {
            true => input.lines().filter(|line| !line.trim().is_empty()).collect(),
            false => vec![&input],
        };
        let mut out = io::stdout().lock();
        let mut all = true;
        for request in requests {
            let (answered, text): (bool, Value) = match answer(&self.name, request) {
                Ok(found) => (true, found),
                Err(error) => (false, error.to_json()),
            };
            all &= answered;
            writeln!(out, "{text}")?;
        }
        Ok(all)
    }
}

//! `gauge-sim` and `gauge`: stand-ins for bench gauges, and their buttons.
use std::net::SocketAddr;
use std::path::PathBuf;

use clap::{Args, ValueEnum};
use jagged_pin_gauge_sim::{Hub, demo_gauges, press, put_on};
use jagged_pin_server::state::GAUGE_HUB;
use tokio::net::TcpListener;

#[derive(Args)]
pub struct GaugeSim {
    /// Loopback address to listen on.
    #[arg(long, env = "JAGGED_PIN_GAUGES", default_value = GAUGE_HUB)]
    listen: SocketAddr,
    /// One line in this many is damaged on the way; 0 for none.
    #[arg(long, default_value_t = 0)]
    damaged_one_in: u32,
    /// File with the sizes the gauges find: a line for each gauge, its name and then its sizes.
    #[arg(long, value_name = "FILE")]
    part: Option<PathBuf>,
}

impl GaugeSim {
    pub async fn run(self) -> Result<(), String> {
        if !self.listen.ip().is_loopback() {
            return Err(format!("{} is not a loopback address: the simulator is for this machine only", self.listen));
        }
        let listener = TcpListener::bind(self.listen).await;
        let listener = listener.map_err(|e| format!("cannot listen on {}: {e}", self.listen))?;
        let mut gauges = demo_gauges();
        if let Some(file) = &self.part {
            let text = std::fs::read_to_string(file).map_err(|e| format!("cannot read {}: {e}", file.display()))?;
            put_on(&text, &mut gauges).map_err(|e| format!("{}, {e}", file.display()))?;
        }
        for gauge in &mut gauges {
            gauge.damaged_one_in = self.damaged_one_in;
            println!("{} is plugged in at {}", gauge.id, self.listen);
        }
        Hub::new(gauges).serve(listener).await.map_err(|e| e.to_string())
    }
}

/// What can happen to a gauge.
#[derive(Clone, Copy, ValueEnum)]
enum Happens {
    /// Its button is pressed.
    Press,
    /// It sends its last reading again.
    Repeat,
    /// Its cable is pulled.
    Unplug,
    /// Its cable is put back.
    Plug,
    /// A line of any text comes over its cable.
    Say,
}

#[derive(Args)]
pub struct Press {
    /// What happens.
    happens: Happens,
    /// The gauge, such as `mic-tenths`.
    gauge: String,
    /// For `say`: the text.
    text: Vec<String>,
    /// Where the simulator listens.
    #[arg(long, env = "JAGGED_PIN_GAUGES", default_value = GAUGE_HUB)]
    at: String,
}

impl Press {
    pub async fn run(self) -> Result<(), String> {
        let verb = match self.happens {
            Happens::Press => "PRESS",
            Happens::Repeat => "REPEAT",
            Happens::Unplug => "UNPLUG",
            Happens::Plug => "PLUG",
            Happens::Say => "SAY",
        };
        let command = format!("{verb} {} {}", self.gauge, self.text.join(" "));
        let answer = press(&self.at, command.trim_end()).await;
        match answer.map_err(|e| format!("no simulator at {}: {e}; start one with gauge-sim", self.at))?.as_str() {
            "OK" => Ok(()),
            _ => Err(format!("{} does not do that", self.gauge)),
        }
    }
}

//! The program `cerealis`: arguments, wiring, clock, demo data.

mod demo;
mod folder;
mod keep;

use std::{
    io::IsTerminal,
    net::{SocketAddr, TcpListener, ToSocketAddrs},
    path::PathBuf,
    process::ExitCode,
};

use cerealis_core::{Tables, kitchen::Kitchen};
use cerealis_store::kitchen;
use cerealis_web::{
    Serves, State,
    edge::{Clock, Household},
    server,
};
use clap::{Args, Parser, Subcommand};
use folder::{BOOK, open};
use jiff::{Timestamp, tz::TimeZone};

/// Reading and pages are many short strings: this allocator takes a fifth off them.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Dough time against clock time, for people who bake bread at home.
#[derive(Debug, Parser)]
#[command(name = "cerealis", version)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Debug, Subcommand)]
enum Command {
    /// Serve a household.
    Serve {
        #[command(flatten)]
        common: Common,
        /// Folder that holds the household's data; made if it is missing.
        #[arg(long, env = "CEREALIS_DATA", required_unless_present = "compute_only")]
        data: Option<PathBuf>,
        /// Keep nothing and serve no pages: only the calls that need no household. Any number of copies answer alike.
        #[arg(long)]
        compute_only: bool,
    },
    /// Serve a fresh copy of the demo kitchen, Skerry Light.
    Demo {
        #[command(flatten)]
        common: Common,
        /// Folder for the demo data; refused if it already holds a database. Left out: a temporary one.
        #[arg(long, env = "CEREALIS_DATA")]
        data: Option<PathBuf>,
        /// Start the clock at an instant and run it so many times as fast: `2026-11-06T16:40:00+00:00,60`.
        #[arg(long, value_parser = told_clock)]
        clock: Option<(Timestamp, u32)>,
    },
    /// Copy a household into one file, also while it is served. The copy is checked before it counts.
    Backup(keep::Kept),
    /// Make a household of such a copy, in a folder that holds none yet.
    Restore(keep::Kept),
    /// Write everything a household keeps into one file of JSON.
    Export(keep::Kept),
    /// Take such a file into a household. What is there already stays as it is.
    Import {
        #[command(flatten)]
        kept: keep::Kept,
        /// Only say what it would bring.
        #[arg(long)]
        dry_run: bool,
    },
}

#[derive(Debug, Args)]
struct Common {
    /// Address and port.
    #[arg(long, env = "CEREALIS_LISTEN", default_value = "127.0.0.1:8080")]
    listen: String,
    /// A name beside loopback under which it may be called; repeatable.
    #[arg(long)]
    host: Vec<String>,
}

fn told_clock(text: &str) -> Result<(Timestamp, u32), String> {
    let (at, speed) = text.rsplit_once(',').unwrap_or((text, "1"));
    let at = at.parse().map_err(|_| format!("“{at}” is no instant with its offset"))?;
    let speed = speed.parse().map_err(|_| format!("“{speed}” is no whole number"))?;
    Ok((at, speed))
}

/// Why the program ends early; one clear line.
#[derive(Debug, thiserror::Error)]
enum Ending {
    #[error("The tables that came with the program do not hold together: {0}")]
    Tables(#[from] cerealis_core::pantry::TableError),
    #[error("The household's data cannot be opened: {0}")]
    Store(#[from] cerealis_store::StoreError),
    #[error("The folder {folder} cannot be used: {why}. Choose another with --data, or mend it.")]
    Folder { folder: String, why: std::io::Error },
    #[error("{0}")]
    Keeping(String),
    #[error("{0}")]
    Usage(String),
    #[error("{0}")]
    Io(#[from] std::io::Error),
}

#[actix_web::main]
async fn main() -> ExitCode {
    let cli = Cli::parse();
    let filter = tracing_subscriber::EnvFilter::try_from_env("CEREALIS_LOG").unwrap_or_else(|_| "info,tracing_actix_web=info".into());
    let logs = tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr);
    // Lines for people where a terminal reads them, JSON where a program does.
    if std::io::stderr().is_terminal() {
        logs.compact().init();
    } else {
        logs.json().init();
    }
    match run(cli.command).await {
        Ok(()) => ExitCode::SUCCESS,
        Err(e) => {
            eprintln!("cerealis: {e}");
            ExitCode::from(if matches!(e, Ending::Usage(_)) { 2 } else { 1 })
        }
    }
}

async fn run(command: Command) -> Result<(), Ending> {
    let tables = Tables::built_in()?;
    match command {
        Command::Serve { common, data, compute_only: false } => {
            let port = listen(&common)?;
            let data = data.unwrap_or_default();
            let fresh = !data.join(BOOK).exists();
            let (db, _held) = open(&data)?;
            if fresh {
                let mut connection = db.connection()?;
                kitchen::put(&mut connection, &Kitchen::untold(zone_here()))?;
            }
            let state = State::new(Household::open(tables, &db)?, db, Clock::system()).also_called(common.host.clone());
            serve(port, state, Serves::Household).await
        }
        Command::Serve { common, compute_only: true, .. } => {
            let port = listen(&common)?;
            // The usual kitchen, in a folder that goes with the program.
            let usual = tempfile::tempdir()?;
            let (db, _held) = open(usual.path())?;
            let state = State::new(Household::open(tables, &db)?, db, Clock::system()).also_called(common.host.clone());
            serve(port, state, Serves::Calls).await
        }
        Command::Demo { common, data, clock } => {
            let port = listen(&common)?;
            let temporary = if data.is_none() { Some(tempfile::tempdir()?) } else { None };
            let folder = data.or_else(|| temporary.as_ref().map(|t| t.path().to_owned())).unwrap_or_default();
            if folder.join(BOOK).exists() {
                return Err(Ending::Usage(format!("{} already holds a household; the demo does not touch it.", folder.display())));
            }
            let clock = clock.map_or_else(Clock::system, |(at, speed)| Clock::starting(at, speed));
            let (db, _held) = open(&folder)?;
            demo::lay_out(&db, &tables, clock.now())?;
            let state = State::new(Household::open(tables, &db)?, db, clock).also_called(common.host.clone());
            serve(port, state, Serves::Household).await
        }
        Command::Backup(kept) => keep::backup(&kept),
        Command::Restore(kept) => keep::restore(&kept),
        Command::Export(kept) => keep::export(&kept),
        Command::Import { kept, dry_run } => keep::import(&kept, dry_run),
    }
}

/// The time zone of this machine, where it names one.
fn zone_here() -> String {
    TimeZone::system().iana_name().map_or_else(|| "UTC".to_owned(), str::to_owned)
}

/// Takes the port, before anything is made on the disk: at every address the name stands for.
fn listen(common: &Common) -> Result<Vec<TcpListener>, Ending> {
    let wrong = || Ending::Usage(format!("“{}” is no address to listen on, for example 127.0.0.1:8080.", common.listen));
    let addresses: Vec<SocketAddr> = common.listen.to_socket_addrs().map_err(|_| wrong())?.collect();
    if addresses.iter().any(|a| !a.ip().is_loopback()) {
        return Err(Ending::Usage(
            "Cerealis listens on this machine only (127.0.0.1): it has no entrance yet that would keep others out.".into(),
        ));
    }
    let (had, refused): (Vec<_>, Vec<_>) = addresses.iter().map(TcpListener::bind).partition(Result::is_ok);
    match refused.into_iter().find_map(Result::err) {
        Some(e) if had.is_empty() => {
            Err(Ending::Usage(format!("{} cannot be listened on: {e}. Another port: --listen 127.0.0.1:8081", common.listen)))
        }
        _ => Ok(had.into_iter().flatten().collect()),
    }
}

async fn serve(listeners: Vec<TcpListener>, state: State, serves: Serves) -> Result<(), Ending> {
    let addresses: Vec<SocketAddr> = listeners.iter().map(TcpListener::local_addr).collect::<Result<_, _>>()?;
    let running = server(listeners, state, serves)?;
    for address in addresses {
        println!("Cerealis is at http://{address}/");
    }
    running.await?;
    Ok(())
}

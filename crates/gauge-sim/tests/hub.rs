//! The hub over a real port.
use jagged_pin_core::gauge::{SentFigure, read_line};
use jagged_pin_core::{Length, Unit};
use jagged_pin_gauge_sim::{Hub, SimGauge, press};
use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader, Lines};
use tokio::net::tcp::{OwnedReadHalf, OwnedWriteHalf};
use tokio::net::{TcpListener, TcpStream};

type Outcome<T = ()> = Result<T, Box<dyn std::error::Error>>;

async fn hub() -> Outcome<String> {
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let address = listener.local_addr()?.to_string();
    let mut mic = SimGauge::new("mic", Unit::Inch, Length::tenths(1), 1);
    mic.script = vec![Length::tenths(26_238), Length::tenths(26_239)];
    tokio::spawn(Hub::new(vec![mic]).serve(listener));
    Ok(address)
}

type Bench = (Lines<BufReader<OwnedReadHalf>>, OwnedWriteHalf);

async fn bench(hub: &str, gauge: &str) -> Outcome<Bench> {
    let (read, mut write) = TcpStream::connect(hub).await?.into_split();
    write.write_all(format!("HELLO {gauge}\n").as_bytes()).await?;
    Ok((BufReader::new(read).lines(), write))
}

async fn next(bench: &mut Bench) -> Outcome<Option<String>> {
    loop {
        match bench.0.next_line().await? {
            Some(line) if line == "BEAT" => {}
            other => return Ok(other),
        }
    }
}

#[tokio::test]
async fn a_press_reaches_the_bench_and_a_repeat_is_known_by_its_count() -> Outcome {
    let hub = hub().await?;
    let mut bench = bench(&hub, "mic").await?;
    assert_eq!(next(&mut bench).await?.as_deref(), Some("READY mic"));
    for _ in 0..2 {
        assert_eq!(press(&hub, "PRESS mic").await?, "OK");
    }
    assert_eq!(press(&hub, "REPEAT mic").await?, "OK");
    let mut sent: Vec<SentFigure> = Vec::new();
    for _ in 0..3 {
        sent.push(read_line(&next(&mut bench).await?.unwrap_or_default())?);
    }
    let told: Vec<(u32, &str)> = sent.iter().map(|s| (s.count, s.figure.as_str())).collect();
    assert_eq!(told, [(1, "2.6238"), (2, "2.6239"), (2, "2.6239")]);
    Ok(())
}

#[tokio::test]
async fn an_unplugged_gauge_ends_its_line_and_is_gone_until_it_is_plugged_in() -> Outcome {
    let hub = hub().await?;
    let mut first = bench(&hub, "mic").await?;
    next(&mut first).await?;
    press(&hub, "UNPLUG mic").await?;
    assert_eq!(next(&mut first).await?, None);
    assert_eq!(next(&mut bench(&hub, "mic").await?).await?.as_deref(), Some("GONE mic"));
    press(&hub, "PLUG mic").await?;
    assert_eq!(next(&mut bench(&hub, "mic").await?).await?.as_deref(), Some("READY mic"));
    Ok(())
}

#[tokio::test]
async fn what_no_gauge_does_is_answered_with_no() -> Outcome {
    let hub = hub().await?;
    assert_eq!(press(&hub, "PRESS nothing").await?, "NO");
    assert_eq!(press(&hub, "EXPLODE mic").await?, "NO");
    assert_eq!(press(&hub, "REPEAT mic").await?, "NO", "nothing was sent yet");
    Ok(())
}

//! Connections: how many there are, how long each may take, and ending them all.
use std::convert::Infallible;
use std::io;
use std::net::SocketAddr;
use std::sync::Arc;
use std::time::Duration;

use axum::Router;
use axum::extract::ConnectInfo;
use axum::http::Request;
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use hyper_util::service::TowerToHyperService;
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::{OwnedSemaphorePermit, Semaphore};
use tokio::time::{interval, sleep, timeout};
use tower::ServiceExt;

use crate::watched::{Answer, Connections, InHand};

/// Connections at once: some browsers for each bench of a large shop, with room for those that hang.
const CONNECTIONS: usize = 1_024;
/// How long a request's head may take to arrive, and a kept connection may be silent.
const HEAD_WITHIN: Duration = Duration::from_secs(10);
/// How long a client may take nothing of an answer.
const TAKEN_WITHIN: Duration = Duration::from_secs(30);
/// The same where places run short.
const TAKEN_WHEN_FULL: Duration = Duration::from_millis(200);
/// One place in so many is kept free for whoever comes next, as long as anybody takes nothing.
const KEPT_FREE: usize = 8;
/// How often that is looked at.
const LOOK_EVERY: Duration = Duration::from_millis(100);
/// Most bytes of one connection that wait to be sent, or to be understood.
const BUFFERED: usize = 16 * 1024;
/// How long what has begun may go on after the server was told to stop.
const ENDING: Duration = Duration::from_secs(4);
/// Pause after the system refused a connection: out of descriptors, mostly.
const REFUSED: Duration = Duration::from_millis(100);

/// Serves `app` on `listener` until `asked` to stop; what has begun then has a few seconds to end.
///
/// # Errors
/// What the system says about the listener.
pub(crate) async fn serve(
    listener: TcpListener,
    app: Router,
    asked: impl Future<Output = ()> + Send,
) -> io::Result<()> {
    serve_with(listener, app, asked, CONNECTIONS).await
}

/// The same, with so many places.
async fn serve_with(
    listener: TcpListener,
    app: Router,
    asked: impl Future<Output = ()> + Send,
    all: usize,
) -> io::Result<()> {
    listener.local_addr()?;
    let graceful = GracefulShutdown::new();
    let places = Arc::new(Semaphore::new(all));
    let connections = Connections::none();
    let mut look = interval(LOOK_EVERY);
    let mut asked = std::pin::pin!(asked);
    loop {
        let (stream, peer, place) = {
            let mut next = std::pin::pin!(next(&listener, &places));
            let found = loop {
                tokio::select! {
                    next = &mut next => break Some(next),
                    () = &mut asked => break None,
                    _ = look.tick() => {
                        connections.end_all_slower_than(TAKEN_WITHIN);
                        let short = all.div_ceil(KEPT_FREE).saturating_sub(places.available_permits());
                        connections.end_the_slowest(short, TAKEN_WHEN_FULL);
                    }
                }
            };
            let Some(found) = found else { break };
            found
        };
        let stream = connections.watch(stream);
        let seen = stream.seen();
        let app = {
            let (app, seen) = (app.clone(), seen.clone());
            tower::service_fn(move |mut request: Request<Incoming>| {
                let (app, in_hand) = (app.clone(), InHand::on(&seen));
                request.extensions_mut().insert(ConnectInfo(peer));
                async move {
                    let answer = app.oneshot(request.map(axum::body::Body::new)).await?;
                    Ok::<_, Infallible>(answer.map(|body| Answer::of(body, in_hand)))
                }
            })
        };
        let connection = http1::Builder::new()
            .timer(TokioTimer::new())
            .header_read_timeout(HEAD_WITHIN)
            .max_buf_size(BUFFERED)
            .serve_connection(TokioIo::new(stream), TowerToHyperService::new(app));
        let connection = graceful.watch(connection);
        tokio::spawn(async move {
            tokio::select! {
                // A browser that goes away in the middle is no fault of anybody's.
                ended = connection => if let Err(error) = ended {
                    tracing::debug!(%error, "a connection ended early");
                },
                () = seen.end.notified() => tracing::debug!("a client asked or took nothing and was cut off"),
            }
            drop(place);
        });
    }
    drop(listener);
    if timeout(ENDING, graceful.shutdown()).await.is_err() {
        tracing::warn!("some requests did not end in time and were cut off");
    }
    Ok(())
}

/// The next connection there is room for.
async fn next(
    listener: &TcpListener,
    places: &Arc<Semaphore>,
) -> (TcpStream, SocketAddr, Option<OwnedSemaphorePermit>) {
    let place = Arc::clone(places).acquire_owned().await.ok();
    loop {
        match listener.accept().await {
            Ok((stream, peer)) => {
                // Events are small and should not wait for more of them.
                let _ = stream.set_nodelay(true);
                return (stream, peer, place);
            }
            Err(error) => {
                tracing::warn!(%error, "a connection was not accepted");
                sleep(REFUSED).await;
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use axum::routing::get;
    use tokio::io::{AsyncReadExt, AsyncWriteExt};

    use super::*;

    async fn asks(address: SocketAddr, path: &str) -> io::Result<TcpStream> {
        let mut stream = TcpStream::connect(address).await?;
        stream.write_all(format!("GET {path} HTTP/1.1\r\nhost: here\r\n\r\n").as_bytes()).await?;
        Ok(stream)
    }

    /// What a third client hears where there are two places and others have both.
    async fn heard_by_a_third(address: SocketAddr) -> io::Result<String> {
        let mut third = asks(address, "/small").await?;
        let mut bytes = [0; 512];
        let heard = timeout(Duration::from_secs(20), third.read(&mut bytes)).await;
        let count = heard.map_err(|_| io::Error::other("the third client waited for ever"))??;
        Ok(String::from_utf8_lossy(bytes.get(..count).unwrap_or_default()).into_owned())
    }

    async fn two_places() -> io::Result<(SocketAddr, tokio::task::JoinHandle<io::Result<()>>)> {
        let large = || async { vec![b'x'; 64 << 20] };
        let app = Router::new().route("/large", get(large)).route("/small", get(|| async { "here" }));
        let listener = TcpListener::bind("127.0.0.1:0").await?;
        let address = listener.local_addr()?;
        Ok((address, tokio::spawn(serve_with(listener, app, std::future::pending(), 2))))
    }

    /// Both places are taken by clients that ask for more than any socket holds and read none of it.
    #[tokio::test(flavor = "multi_thread")]
    async fn whoever_takes_no_answer_gives_their_place_to_who_waits() -> io::Result<()> {
        let (address, server) = two_places().await?;
        let _slow = [asks(address, "/large").await?, asks(address, "/large").await?];
        let answer = heard_by_a_third(address).await?;
        assert!(answer.starts_with("HTTP/1.1 200") && answer.ends_with("here"), "{answer}");
        server.abort();
        Ok(())
    }

    /// One of them has had its answer and asks nothing more, the other never asked.
    #[tokio::test(flavor = "multi_thread")]
    async fn whoever_asks_nothing_gives_their_place_to_who_waits() -> io::Result<()> {
        let (address, server) = two_places().await?;
        let mut answered = asks(address, "/small").await?;
        let mut bytes = [0; 512];
        assert!(answered.read(&mut bytes).await? > 0);
        let _silent = TcpStream::connect(address).await?;
        let answer = heard_by_a_third(address).await?;
        assert!(answer.starts_with("HTTP/1.1 200") && answer.ends_with("here"), "{answer}");
        server.abort();
        Ok(())
    }
}

//! Connections: how many there are, how long each may take, and ending them all.
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

use crate::watched::Connections;

/// Connections at once: some browsers for each bench of a large shop, with room for those that hang.
const CONNECTIONS: usize = 1_024;
/// How long a request's head may take to arrive, and a kept connection may be silent.
const HEAD_WITHIN: Duration = Duration::from_secs(10);
/// How long a client may take nothing of an answer.
const TAKEN_WITHIN: Duration = Duration::from_secs(30);
/// The same where all places are taken and another client waits for one.
const TAKEN_WHEN_FULL: Duration = Duration::from_millis(300);
/// How often that is looked at.
const LOOK_EVERY: Duration = Duration::from_millis(200);
/// Most bytes of one connection that wait to be sent, or to be understood.
const BUFFERED: usize = 64 * 1024;
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
    places: usize,
) -> io::Result<()> {
    listener.local_addr()?;
    let graceful = GracefulShutdown::new();
    let places = Arc::new(Semaphore::new(places));
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
                        if places.available_permits() == 0 {
                            connections.end_the_slowest(TAKEN_WHEN_FULL);
                        }
                    }
                }
            };
            let Some(found) = found else { break };
            found
        };
        let stream = connections.watch(stream);
        let seen = stream.seen();
        let app = app.clone().map_request(move |mut request: Request<Incoming>| {
            request.extensions_mut().insert(ConnectInfo(peer));
            request.map(axum::body::Body::new)
        });
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
                () = seen.end.notified() => tracing::debug!("a client took nothing of its answer and was cut off"),
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

    /// Two places, both taken by clients that ask for more than any socket holds and read none of it.
    #[tokio::test(flavor = "multi_thread")]
    async fn whoever_takes_no_answer_gives_their_place_to_who_waits() -> io::Result<()> {
        let large = || async { vec![b'x'; 64 << 20] };
        let app = Router::new().route("/large", get(large)).route("/small", get(|| async { "here" }));
        let listener = TcpListener::bind("127.0.0.1:0").await?;
        let address = listener.local_addr()?;
        let server = tokio::spawn(serve_with(listener, app, std::future::pending(), 2));
        let _slow = [asks(address, "/large").await?, asks(address, "/large").await?];
        let mut answer = String::new();
        let mut third = asks(address, "/small").await?;
        let heard = timeout(Duration::from_secs(20), async {
            let mut bytes = [0; 512];
            let count = third.read(&mut bytes).await?;
            answer.push_str(&String::from_utf8_lossy(bytes.get(..count).unwrap_or_default()));
            io::Result::Ok(())
        });
        heard.await.map_err(|_| io::Error::other("the third client waited for ever"))??;
        assert!(answer.starts_with("HTTP/1.1 200") && answer.ends_with("here"), "{answer}");
        server.abort();
        Ok(())
    }
}

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
use tokio::time::{sleep, timeout};
use tower::ServiceExt;

/// Connections at once: some browsers for each bench of a large shop, with room for those that hang.
const CONNECTIONS: usize = 1_024;
/// How long a request's head may take to arrive, and a kept connection may be silent.
const HEAD_WITHIN: Duration = Duration::from_secs(10);
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
    listener.local_addr()?;
    let graceful = GracefulShutdown::new();
    let places = Arc::new(Semaphore::new(CONNECTIONS));
    let mut asked = std::pin::pin!(asked);
    loop {
        let (stream, peer, place) = tokio::select! {
            next = next(&listener, &places) => next,
            () = &mut asked => break,
        };
        let app = app.clone().map_request(move |mut request: Request<Incoming>| {
            request.extensions_mut().insert(ConnectInfo(peer));
            request.map(axum::body::Body::new)
        });
        let connection = http1::Builder::new()
            .timer(TokioTimer::new())
            .header_read_timeout(HEAD_WITHIN)
            .serve_connection(TokioIo::new(stream), TowerToHyperService::new(app));
        let connection = graceful.watch(connection);
        tokio::spawn(async move {
            // A browser that goes away in the middle is no fault of anybody's.
            if let Err(error) = connection.await {
                tracing::debug!(%error, "a connection ended early");
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

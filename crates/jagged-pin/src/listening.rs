//! Listening for browsers.
use std::io;
use std::net::SocketAddr;

use tokio::net::{TcpListener, TcpSocket};

/// Connections that wait to be taken in: as many as there are places for, some times over. Of more, the system hears nothing
/// for a second, then three, then seven.
const WAITING: u32 = 4_096;

/// Listens at an address.
///
/// # Errors
/// What the system says about the address.
pub fn at(address: SocketAddr) -> io::Result<TcpListener> {
    let socket = if address.is_ipv4() { TcpSocket::new_v4() } else { TcpSocket::new_v6() }?;
    // A server that was ended a moment ago left connections behind that are closing.
    socket.set_reuseaddr(true)?;
    socket.bind(address)?;
    socket.listen(WAITING)
}

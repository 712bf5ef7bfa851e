//! An encrypted connection to the database: only to the server that the named authority vouches for.
use std::error::Error;
use std::fs;
use std::path::{Path, PathBuf};

use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_store::Store;
use rcgen::{BasicConstraints, CertificateParams, CertifiedIssuer, IsCa, KeyPair};

type Outcome = Result<(), Box<dyn Error>>;

fn write(folder: &Path, name: &str, text: &str) -> Result<PathBuf, Box<dyn Error>> {
    let path = folder.join(name);
    fs::write(&path, text)?;
    Ok(path)
}

fn authority() -> Result<CertifiedIssuer<'static, KeyPair>, Box<dyn Error>> {
    let mut params = CertificateParams::new(Vec::new())?;
    params.is_ca = IsCa::Ca(BasicConstraints::Unconstrained);
    Ok(CertifiedIssuer::self_signed(params, KeyPair::generate()?)?)
}

#[tokio::test]
async fn only_a_server_that_the_authority_vouches_for_is_spoken_to() -> Outcome {
    let folder = tempfile::tempdir()?;
    let (ours, others) = (authority()?, authority()?);
    let key = KeyPair::generate()?;
    let certificate = CertificateParams::new(vec!["127.0.0.1".to_owned()])?.signed_by(&key, &ours)?;
    let at = |name, text: &str| write(folder.path(), name, text);
    let (certificate, key) = (at("server.pem", &certificate.pem())?, at("server.key", &key.serialize_pem())?);
    let (ours, others) = (at("ca.pem", &ours.pem())?, at("others.pem", &others.pem())?);
    let database = TestDatabase::told(vec![
        format!("--ssl-cert={}", certificate.display()),
        format!("--ssl-key={}", key.display()),
        "--require-secure-transport=ON".to_owned(),
    ])?;
    let by = |authority: &Path| format!("{}?ca={}", database.url(), authority.display());

    let store = Store::connect(&by(&ours)).await?;
    store.ping().await?;
    assert!(!store.somebody_can_sign_in().await?, "the tables are there");
    // Of somebody else's making, for another name, or not encrypted at all: nothing is sent.
    assert!(Store::connect(&by(&others)).await.is_err(), "another authority");
    assert!(Store::connect(&by(&ours).replace("127.0.0.1", "localhost")).await.is_err(), "another name");
    assert!(Store::connect(&database.url()).await.is_err(), "the server wants it encrypted");
    Ok(())
}

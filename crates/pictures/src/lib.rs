//! Pictures as evidence.
//!
//! Whatever a camera sends is read within limits, turned upright, made smaller where it is large, and written anew as a JPEG:
//! what it said of place, time and owner is not copied. Who took it and when stands in the fact that names it.
//!
//! ```
//! use image::{DynamicImage, ImageFormat};
//! use std::io::Cursor;
//!
//! let mut png = Vec::new();
//! DynamicImage::new_rgb8(3_000, 1_500).write_to(&mut Cursor::new(&mut png), ImageFormat::Png).unwrap();
//! let kept = jagged_pin_pictures::prepare(&png).unwrap();
//! assert_eq!((kept.width, kept.height), (1_600, 800));
//! assert!(jagged_pin_pictures::prepare(b"no picture").is_err());
//! ```
use std::io::Cursor;

use image::codecs::jpeg::JpegEncoder;
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader, Limits};
use thiserror::Error;

/// Most bytes that are taken in.
pub const LARGEST_SENT: usize = 12 * 1024 * 1024;
/// Most pixels along a side of what is taken in.
const LARGEST_SIDE: u32 = 12_000;
/// Most pixels in all: a large camera's, and few enough to be unpacked beside everything else on a small machine.
const MOST_PIXELS: u64 = 36_000_000;
/// Most bytes that unpacking may take: three a pixel, and a little.
const LARGEST_UNPACKED: u64 = 160 * 1024 * 1024;
/// Pixels along the longer side of what is kept.
const KEPT_SIDE: u32 = 1_600;
/// Most bytes of what is kept.
pub const LARGEST_KEPT: usize = 320 * 1024;

/// A picture as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Kept {
    /// A JPEG without anything that was written beside the picture.
    pub jpeg: Vec<u8>,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
}

/// Why something is not kept.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum NoPicture {
    /// More bytes, or more pixels, than are taken in.
    #[error("this picture is too large: at most 12 MB, 12 000 pixels along a side and 36 million in all")]
    TooLarge,
    /// Neither a PNG nor a JPEG, or a broken one.
    #[error("this is no picture that can be read: a PNG or a JPEG is")]
    NotReadable,
}

/// Reads what was sent and makes of it what is kept.
///
/// # Errors
/// [`NoPicture`] where it is too large, or no picture.
pub fn prepare(sent: &[u8]) -> Result<Kept, NoPicture> {
    if sent.len() > LARGEST_SENT {
        return Err(NoPicture::TooLarge);
    }
    let small = read(sent)?;
    // A JPEG has no see-through parts and eight bits a colour.
    let plain = DynamicImage::ImageRgb8(small.to_rgb8());
    let jpeg =
        [82, 65, 45, 25].into_iter().find_map(|quality| written(&plain, quality).filter(|j| j.len() <= LARGEST_KEPT));
    Ok(Kept { jpeg: jpeg.ok_or(NoPicture::TooLarge)?, width: plain.width(), height: plain.height() })
}

/// Whether a JPEG is as it is kept here: no larger, and with nothing beside the picture, such as what a camera says of place and
/// owner, or something that begins where the picture ends.
pub fn is_as_kept(jpeg: &[u8]) -> bool {
    jpeg.len() <= LARGEST_KEPT && has_nothing_beside(jpeg) && prepare(jpeg).is_ok()
}

/// Markers of a JPEG: where it starts, where it ends, where its lines begin, and its plain header.
const START: u8 = 0xd8;
const END: u8 = 0xd9;
const LINES: u8 = 0xda;
const JFIF: u8 = 0xe0;

/// Walks along the segments of a JPEG. Before its lines only tables, its frame and the plain JFIF header may stand, and after
/// the end of the last line nothing.
fn has_nothing_beside(jpeg: &[u8]) -> bool {
    let at = |i: usize| jpeg.get(i).copied();
    if (at(0), at(1)) != (Some(0xff), Some(START)) || !jpeg.ends_with(&[0xff, END]) {
        return false;
    }
    let mut i = 2_usize;
    while let (Some(0xff), Some(kind)) = (at(i), at(i.saturating_add(1))) {
        let beside = (0xe1..=0xef).contains(&kind) || kind == 0xfe;
        if beside {
            return false;
        }
        if kind == LINES {
            // Within the lines every byte of ones is followed by a nought or by a restart: the first end is the end.
            let lines = jpeg.get(i..).unwrap_or_default();
            let end = lines.windows(2).position(|pair| pair == [0xff, END]);
            return end.is_some_and(|end| i.saturating_add(end).saturating_add(2) == jpeg.len());
        }
        let (Some(high), Some(low)) = (at(i.saturating_add(2)), at(i.saturating_add(3))) else { return false };
        let length = usize::from(u16::from_be_bytes([high, low]));
        if kind == JFIF && length > 16 {
            return false;
        }
        i = i.saturating_add(2).saturating_add(length);
    }
    false
}

fn read(sent: &[u8]) -> Result<DynamicImage, NoPicture> {
    let mut reader = ImageReader::new(Cursor::new(sent)).with_guessed_format().map_err(|_| NoPicture::NotReadable)?;
    if !matches!(reader.format(), Some(ImageFormat::Png | ImageFormat::Jpeg)) {
        return Err(NoPicture::NotReadable);
    }
    let mut limits = Limits::default();
    limits.max_image_width = Some(LARGEST_SIDE);
    limits.max_image_height = Some(LARGEST_SIDE);
    limits.max_alloc = Some(LARGEST_UNPACKED);
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(|e| no_picture(&e))?;
    // A camera that was held on its side says so beside the picture, which is not copied.
    let held = decoder.orientation().map_err(|e| no_picture(&e))?;
    let (width, height) = decoder.dimensions();
    if u64::from(width).saturating_mul(u64::from(height)) > MOST_PIXELS {
        return Err(NoPicture::TooLarge);
    }
    let picture = DynamicImage::from_decoder(decoder).map_err(|e| no_picture(&e))?;
    let large = picture.width().max(picture.height()) > KEPT_SIDE;
    // Small first and turned then: nothing large is ever held twice.
    let mut small = if large { picture.thumbnail(KEPT_SIDE, KEPT_SIDE) } else { picture };
    small.apply_orientation(held);
    Ok(small)
}

const fn no_picture(error: &image::ImageError) -> NoPicture {
    match error {
        image::ImageError::Limits(_) => NoPicture::TooLarge,
        _ => NoPicture::NotReadable,
    }
}

fn written(picture: &DynamicImage, quality: u8) -> Option<Vec<u8>> {
    let mut jpeg = Vec::new();
    picture.write_with_encoder(JpegEncoder::new_with_quality(&mut jpeg, quality)).ok()?;
    Some(jpeg)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn drawn(width: u32, height: u32) -> DynamicImage {
        let mut rgb = image::RgbImage::new(width, height);
        for (x, y, pixel) in rgb.enumerate_pixels_mut() {
            // Red to the right, green downwards.
            *pixel = image::Rgb([(x * 255 / width) as u8, (y * 255 / height) as u8, 40]);
        }
        DynamicImage::ImageRgb8(rgb)
    }

    fn jpeg_of(picture: &DynamicImage) -> Vec<u8> {
        written(picture, 90).unwrap_or_default()
    }

    /// A JPEG with an EXIF block that says how the camera was held, and who owns it.
    fn with_exif(jpeg: &[u8], held: u8) -> Vec<u8> {
        let mut tiff = b"MM\0\x2a\0\0\0\x08\0\x02".to_vec();
        tiff.extend([0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, held, 0, 0]);
        tiff.extend([0xa4, 0x30, 0, 2, 0, 0, 0, 8, 0, 0, 0, 38, 0, 0, 0, 0]);
        tiff.extend(b"OWNERME\0");
        let length = u16::try_from(tiff.len() + 8).unwrap_or_default();
        let mut out = vec![0xff, 0xd8, 0xff, 0xe1];
        out.extend(length.to_be_bytes());
        out.extend(b"Exif\0\0");
        out.extend(tiff);
        out.extend(&jpeg[2..]);
        out
    }

    #[test]
    fn what_a_camera_says_of_itself_is_not_kept_and_the_picture_stands_upright() {
        let sent = with_exif(&jpeg_of(&drawn(64, 32)), 6);
        assert!(sent.windows(7).any(|w| w == b"OWNERME"));
        let kept = prepare(&sent);
        let kept = kept.as_ref();
        assert_eq!(kept.map(|k| (k.width, k.height)), Ok((32, 64)), "it was held on its side");
        let bytes = kept.map(|k| k.jpeg.clone()).unwrap_or_default();
        assert!(!bytes.windows(7).any(|w| w == b"OWNERME") && !bytes.windows(4).any(|w| w == b"Exif"));
        // Turned a quarter to the right, what was at the left stands on top.
        let again = image::load_from_memory(&bytes).map(|p| p.to_rgb8());
        let red = |x, y| again.as_ref().map(|p| p.get_pixel(x, y).0[0]).unwrap_or_default();
        assert!(red(16, 60) > red(16, 4) + 150);
    }

    #[test]
    fn what_is_kept_has_nothing_beside_the_picture() {
        let plain = jpeg_of(&drawn(64, 32));
        assert!(is_as_kept(&plain));
        let kept = prepare(&plain).map(|k| k.jpeg).unwrap_or_default();
        assert!(is_as_kept(&kept), "what is kept may be brought along in a file");
        assert!(!is_as_kept(&with_exif(&plain, 1)), "a camera speaks");
        let mut longer = plain.clone();
        longer.extend(b"<script>\xff\xd9");
        assert!(!is_as_kept(&longer), "something begins where it ends");
        let mut png = Vec::new();
        let written = drawn(8, 8).write_to(&mut Cursor::new(&mut png), ImageFormat::Png);
        assert!(written.is_ok() && !is_as_kept(&png));
    }

    #[test]
    fn large_ones_are_made_smaller_and_small_ones_stay() {
        let size = |w, h| prepare(&jpeg_of(&drawn(w, h))).map(|k| (k.width, k.height));
        assert_eq!(size(2_400, 600), Ok((1_600, 400)));
        assert_eq!(size(300, 200), Ok((300, 200)));
    }

    #[test]
    fn what_is_no_picture_or_too_much_of_one_is_refused() {
        assert_eq!(prepare(b""), Err(NoPicture::NotReadable));
        assert_eq!(prepare(b"GIF89a\x01\0\x01\0\0\0\0;"), Err(NoPicture::NotReadable));
        let jpeg = jpeg_of(&drawn(40, 40));
        assert_eq!(prepare(&jpeg[..jpeg.len() / 3]), Err(NoPicture::NotReadable));
        assert_eq!(prepare(&vec![0; LARGEST_SENT + 1]), Err(NoPicture::TooLarge));
        // A small file that would unpack to thirty thousand pixels along a side.
        let mut png = Vec::new();
        let thin = DynamicImage::new_luma8(30_000, 1).write_to(&mut Cursor::new(&mut png), ImageFormat::Png);
        assert!(thin.is_ok() && prepare(&png) == Err(NoPicture::TooLarge));
        // Within every side, and far too much in all: small as a file, and it would fill the memory.
        let mut bomb = Vec::new();
        let grey = DynamicImage::new_luma8(9_000, 9_000).write_to(&mut Cursor::new(&mut bomb), ImageFormat::Png);
        assert!(grey.is_ok() && bomb.len() < LARGEST_SENT && prepare(&bomb) == Err(NoPicture::TooLarge));
    }

    #[test]
    fn noise_is_kept_within_its_bytes() {
        let mut seed = 12_345_u32;
        let mut rgb = image::RgbImage::new(1_600, 1_600);
        for pixel in rgb.pixels_mut() {
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            *pixel = image::Rgb([(seed >> 8) as u8, (seed >> 16) as u8, (seed >> 24) as u8]);
        }
        let kept = prepare(&jpeg_of(&DynamicImage::ImageRgb8(rgb)));
        // Pure noise is the worst there is: it is either small enough or refused, never kept too large.
        assert!(kept.as_ref().map_or_else(|e| *e == NoPicture::TooLarge, |k| k.jpeg.len() <= LARGEST_KEPT), "{kept:?}");
    }
}

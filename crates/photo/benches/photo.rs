//! How long a photo of 12 megapixels takes from its bytes to an outline. Asked: 3 s.
#![allow(clippy::unwrap_used, missing_docs)]

use criterion::{Criterion, criterion_group, criterion_main};
use jigfit_core::units::figure::Writer;
use jigfit_instruments::camera::Scene;
use jigfit_photo::plane::Taped;
use jigfit_photo::read;
use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;

fn photo(c: &mut Criterion) {
    let mut rng = ChaCha8Rng::seed_from_u64(1);
    let card = vec![
        [-1250.0, -750.0],
        [1250.0, -700.0],
        [1200.0, 750.0],
        [-1200.0, 740.0],
    ];
    let (scene, camera) = Scene::workshop(&mut rng, [4000, 3000], 2580.0, 1580.0, card);
    let picture = scene.photo(&camera, &mut rng);
    let mut bytes = vec![];
    let encoder = jpeg_encoder::Encoder::new(&mut bytes, 92);
    encoder
        .encode(&picture.rgb, 4000, 3000, jpeg_encoder::ColorType::Rgb)
        .unwrap();
    let taped = [(0, 2), (1, 3)].map(|(from, to)| Taped {
        from,
        to,
        mm: scene.apart(from, to),
    });
    let mut group = c.benchmark_group("photo");
    group.sample_size(10);
    group.bench_function("12 megapixels, 3 m by 2 m", |b| {
        b.iter(|| read(&bytes, &taped, None, &Writer::default(), |_| ()).unwrap());
    });
    group.finish();
}

criterion_group!(benches, photo);
criterion_main!(benches);

/**
 * Sizes as people read them. The core carries bytes only; these are the edges. Units after IEC 80000-13: kB, MB, GB, TB are powers of 1000,
 * KiB, MiB, GiB, TiB of 1024. Nothing is null.
 */
package app.granary.core.measure;

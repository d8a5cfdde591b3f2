/**
 * Images that Granary did not make: raw disk images as they are or packed by gzip, zstd, xz or bzip2, whole or split, with or without lists
 * of their digests. {@link app.granary.engine.elsewhere.ElsewhereScan} finds them in a folder,
 * {@link app.granary.engine.elsewhere.ElsewhereCheck} proves one.
 */
package app.granary.engine.elsewhere;

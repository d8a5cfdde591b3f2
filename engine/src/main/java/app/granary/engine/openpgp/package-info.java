/**
 * Parts encrypted by a passphrase, each a symmetric OpenPGP message of its own (RFC 9580; written in the form of RFC 4880 that {@code gpg}
 * since 2.0 opens). Nothing is null; no passphrase is an empty one. Start with {@link app.granary.engine.openpgp.OpenPgp}.
 */
package app.granary.engine.openpgp;

package app.granary.core.proof;

import java.time.Instant;

/**
 * One check of one copy of an image, or a person's signature that it was booted.
 *
 * @param level       what was tried
 * @param ok          whether it held
 * @param at          when it ended
 * @param by          the account
 * @param destination the drive the copy lies on
 * @param seconds     how long it took; 0 when it is not known, or for a signature
 */
public record Evidence(ProofLevel level, boolean ok, Instant at, String by, String destination, double seconds) {
}

package app.granary.core.runbook;

import app.granary.core.inventory.ComputerFacts;
import app.granary.core.restore.RestoreTime;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * What a runbook is written from.
 *
 * @param image       the image's name, also its folder's
 * @param madeAt      the moment one is back at
 * @param proven      how far it is proven, as a word; an empty string when nothing of it is
 * @param destination the drive it lies on
 * @param lies        where that drive is, in words
 * @param attached    whether the drive is attached now
 * @param offSite     whether it lies off site
 * @param encrypted   whether its passphrase is needed
 * @param codec       {@code "zstd"}, {@code "gzip"}, {@code "xz"}, {@code "stored"} or {@code "none"}
 * @param target      the disk it goes onto, in full; empty when that is not chosen
 * @param sticks      rescue media known to start the computer, with where they lie
 * @param bootMinutes how long starting one computer from a stick takes a person
 * @param bytes       read from the drive, and written to the target
 * @param rates       by the clock
 * @param moves       what of the layout is worth knowing, a sentence each
 * @param after       what a person does to partitions after it, a sentence each, with its command
 * @param checks      what is looked at on this computer, besides what is looked at on every one
 */
public record RunbookFacts(String computer, String role, String owner, ComputerFacts facts, String image, Instant madeAt, String proven,
    String destination, String lies, boolean attached, boolean offSite, boolean encrypted, String codec,
    Optional<String> target, List<String> sticks, int bootMinutes, RestoreTime.Bytes bytes, RestoreTime.Rates rates, List<String> moves,
    List<String> after, List<String> checks) {
    public RunbookFacts {
        sticks = List.copyOf(sticks);
        moves = List.copyOf(moves);
        after = List.copyOf(after);
        checks = List.copyOf(checks);
    }
}

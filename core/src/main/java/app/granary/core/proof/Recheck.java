package app.granary.core.proof;

import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;

/**
 * An image whose proof may be stale.
 *
 * @param id          the image's
 * @param standing    by its evidence
 * @param recheckDays days its proof stands
 * @param madeAt      what counts as its last proof when it has none
 * @param onlyCopy    whether no other sound copy of it is known
 * @param newest      whether it is its disk's newest: what one would go back to
 * @param worry       whether its drive is noted as worn, or has held damage before
 */
public record Recheck(String id, Standing standing, int recheckDays, Instant madeAt, boolean onlyCopy, boolean newest, boolean worry) {

    /**
     * Those that are stale, in the order they are checked: on drives that give cause for worry first, then what would be missed most, then
     * by age against its days.
     */
    public static List<Recheck> queue(List<Recheck> images, Instant now) {
        return images.stream().filter(image -> image.standing.stale(now))
            .sorted(Comparator.comparing((Recheck image) -> !image.worry).thenComparing(image -> !(image.newest && image.onlyCopy))
                .thenComparing(image -> !image.newest).thenComparing(image -> -image.age(now)).thenComparing(Recheck::id))
            .toList();
    }

    /** 1 when it goes stale now, 2 when it has been stale as long as its proof stood. */
    double age(Instant now) {
        return (double) Duration.between(standing.checkedAt().orElse(madeAt), now).toSeconds()
            / Duration.ofDays(Math.max(1, recheckDays)).toSeconds();
    }

    /** Why it comes when it comes, in a sentence. */
    public String because(Instant now) {
        long days = Duration.between(standing.checkedAt().orElse(madeAt), now).toDays();
        return "Last proven " + days + (days == 1 ? " day" : " days") + " ago, and its proof stands " + recheckDays + "; "
            + (newest ? "the newest of its disk" : "not the newest of its disk")
            + (onlyCopy ? ", without another sound copy" : "") + (worry ? ", on a drive that gives cause for worry" : "") + ".";
    }
}

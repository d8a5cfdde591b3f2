package app.granary.server.restore;

import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutChoice.Strategy;
import app.granary.engine.host.Overwriting;
import app.granary.server.problem.Refused;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.http.HttpStatus;

/**
 * What a person chose of a restore; kept with it, so that it can be carried on. Never holds a passphrase.
 *
 * @param strategy     "keep", "grow", "share" or "by-hand"
 * @param stay         whether what lies behind the main partition stays where it is
 * @param sizes        bytes by partition number, for "by-hand"; null for none
 * @param only         numbers of the partitions to restore; null or empty for all
 * @param othersStay   whether the target's other partitions stay as they are
 * @param into         number of the target's partition by that of the image's, where the others stay; null for the same ones
 * @param added        partitions to make in what stays free; null for none
 * @param zeroUnused   whether what is not in use becomes zeros
 * @param acceptDamage whether damaged parts are passed over
 * @param skipCheck    whether the image is not proven readable first
 * @param shrink       whether file systems are made smaller on the way where that is needed
 * @param allSectors   of a disk that is copied: whether what is not in use is copied too
 * @param refreshes    the spare that is made like its disk again by writing only what changed; null where all is written
 */
record RestoreChoice(String strategy, boolean stay, Map<Integer, Long> sizes, List<Integer> only, boolean othersStay,
    Map<Integer, Integer> into, List<AddedPartition> added, boolean zeroUnused, boolean acceptDamage, boolean skipCheck, boolean shrink,
    boolean allSectors, UUID refreshes) {
    /** All partitions, and nothing besides. */
    static RestoreChoice all(String strategy) {
        return new RestoreChoice(strategy, false, Map.of(), List.of(), false, Map.of(), List.of(), false, false, false, false, false, null);
    }

    Optional<UUID> replaced() {
        return Optional.ofNullable(refreshes);
    }

    LayoutChoice layout() {
        Strategy chosen = Arrays.stream(Strategy.values()).filter(each -> each.word().equals(strategy)).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "strategy",
                "There is no way \"" + strategy + "\" to lay partitions. Choose keep, grow, share or by-hand."));
        return new LayoutChoice(chosen, !stay, sizes == null ? Map.of() : sizes, only == null ? Set.of() : Set.copyOf(only), othersStay,
            into == null ? Map.of() : into, added == null ? List.of() : added.stream().map(AddedPartition::wanted).toList(), shrink);
    }

    Overwriting.How how(boolean carryOn) {
        return new Overwriting.How(zeroUnused, acceptDamage, !skipCheck && !acceptDamage, carryOn, refreshes != null);
    }
}

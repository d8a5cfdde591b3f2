package app.granary.core.card;

import app.granary.core.card.CardFacts.Copy;
import app.granary.core.card.CardFacts.OfDisk;
import app.granary.core.destination.PlaceKind;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KeyPlace;
import app.granary.core.restore.Hands;
import app.granary.core.restore.RestoreTime;
import app.granary.core.measure.Moments;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;

/**
 * If it dies today: the card of one computer.
 *
 * @param disks       what one would get back of each
 * @param stick       with what it is booted
 * @param key         what opens its encrypted volumes, and where that is; an empty string where nothing is encrypted
 * @param steps       in order
 * @param lowMinutes  at best, hands and travel included; 0 when nothing could be brought back
 * @param highMinutes at worst
 * @param inTheWay    what stands in the way, the worst first; empty when nothing does
 */
public record Card(String computer, String role, String owner, List<OfOneDisk> disks, String stick, String key, List<String> steps,
    long lowMinutes, long highMinutes, List<String> inTheWay) {

    /**
     * @param image  its name; an empty string when there is none
     * @param asOf   the moment one would be back at
     * @param lost   what is lost since, as a sentence
     * @param lies   on which drive, lying where
     * @param proven how far it is proven, and what of the disk it lacks
     */
    public record OfOneDisk(String disk, String identity, String image, Optional<Instant> asOf, String lost, String lies, String proven) {
    }

    public static Card of(CardFacts facts, Instant now, ZoneId zone) {
        return new Writer(facts, now, zone).card();
    }

    private static final class Writer {
        private final CardFacts facts;
        private final Instant now;
        private final ZoneId zone;
        private final List<String> inTheWay = new ArrayList<>();
        private final List<OfOneDisk> disks = new ArrayList<>();
        private final List<String> restores = new ArrayList<>();
        private final List<String> swaps = new ArrayList<>();
        private RestoreTime writing = RestoreTime.NONE;
        private Hands.Minutes fetch = Hands.Minutes.NONE;

        private Writer(CardFacts facts, Instant now, ZoneId zone) {
            this.facts = facts;
            this.now = now;
            this.zone = zone;
        }

        Card card() {
            facts.disks().forEach(this::disk);
            boolean nothing = disks.stream().allMatch(each -> each.image.isEmpty());
            String stick = stick();
            String key = key();
            List<String> steps = nothing ? withoutImage() : steps(stick, key);
            long hands = nothing ? 0 : Hands.once(facts.bootMinutes(), facts.facts().encryption() == Encryption.VOLUMES);
            return new Card(facts.computer(), facts.role(), facts.owner(), disks, stick, key, steps,
                hands + fetch.low() + writing.lowMinutes(), hands + fetch.high() + writing.highMinutes(), List.copyOf(inTheWay));
        }

        /** The newest sound copy; of several of one moment the one that is nearest at hand. */
        private void disk(OfDisk disk) {
            String identity = disk.identity().inWords();
            spares(disk);
            disk.rollBack().ifPresent(copy -> inTheWay.add("A quick roll-back image of " + disk.name() + ", of " + day(copy.madeAt())
                + ", lies on the disk itself, on " + copy.destination() + ": it undoes a change that went wrong. When the disk is dead, it "
                + "is dead too."));
            Optional<Copy> chosen = chosen(disk);
            if (chosen.isEmpty()) {
                inTheWay.add(0, "There is no image of " + disk.name() + ": everything on it is lost.");
                disks.add(new OfOneDisk(disk.name(), identity, "", Optional.empty(), "Everything on it.", "", ""));
                return;
            }
            Copy copy = chosen.get();
            inTheWay(disk, copy);
            fetch = fetch.atLeast(Hands.fetch(copy.attached(), copy.kind() == PlaceKind.OFF_SITE));
            writing = writing.plus(RestoreTime.of(copy.bytes(), copy.rates()));
            String lies = copy.destination() + ", " + (copy.kind() == PlaceKind.UNKNOWN ? copy.place() : copy.kind().words(copy.place()));
            disks.add(new OfOneDisk(disk.name(), identity, copy.image(), Optional.of(copy.madeAt()), lost(copy.madeAt()), lies,
                (copy.proven().isEmpty() ? "not proven" : copy.proven()) + (copy.partly().isEmpty() ? "" : "; " + copy.partly())));
            restores.add("From " + lies + ": restore " + copy.image() + " onto " + disk.name() + " (" + identity
                + ", or a disk at least as large). Check the serial number before it is overwritten.");
        }

        /** Of those that hold all of the disk, where there is one. */
        private static Optional<Copy> chosen(OfDisk disk) {
            Comparator<Copy> best = Comparator.comparing(Copy::madeAt).thenComparing(Copy::attached)
                .thenComparing(copy -> copy.kind() != PlaceKind.OFF_SITE);
            Predicate<Copy> whole = copy -> copy.partly().isEmpty();
            return disk.copies().stream().filter(whole.and(Copy::sound)).max(best)
                .or(() -> disk.copies().stream().filter(whole).max(best))
                .or(() -> disk.copies().stream().filter(Copy::sound).max(best)).or(() -> disk.copies().stream().max(best));
        }

        private void spares(OfDisk disk) {
            disk.spares().stream().findFirst().ifPresent(spare -> {
                swaps.add("Quickest: put " + spare.name() + (spare.place().isEmpty() ? "" : ", which lies " + spare.place())
                    + ", in the place of " + disk.name() + ". It is a copy of " + day(spare.madeAt())
                    + (spare.booted() ? ", and this computer was started from it." : "; nobody has started the computer from it yet."));
                if (!spare.flaw().isEmpty()) {
                    inTheWay.add("Of the spare of " + disk.name() + ": " + spare.flaw() + ".");
                }
                if (!spare.booted()) {
                    inTheWay.add("The spare of " + disk.name() + " was never tried. Swap it in once, and sign.");
                }
            });
        }

        private void inTheWay(OfDisk disk, Copy copy) {
            if (!copy.partly().isEmpty()) {
                inTheWay.add("There is no image of all of " + disk.name() + ", only one that is " + copy.partly() + ".");
            }
            if (!copy.sound()) {
                inTheWay.add("The image of " + disk.name() + " is not proven. Check it today.");
            }
            disk.copies().stream()
                .filter(each -> each.madeAt().isAfter(copy.madeAt()) && !each.sound() && each.partly().equals(copy.partly())).findFirst()
                .ifPresent(newer -> inTheWay.add("A newer image of " + disk.name() + ", of " + day(newer.madeAt())
                    + ", is not proven yet; checked, it could be used instead."));
            if (copy.kind() == PlaceKind.OFF_SITE && !copy.attached()) {
                Hands.Minutes travel = Hands.fetch(false, true);
                inTheWay.add(copy.destination() + " lies off site: fetching it adds " + travel.low() + " to " + travel.high()
                    + " minutes.");
            }
            if (copy.encrypted()) {
                inTheWay.add("The image of " + disk.name() + " is encrypted: its passphrase is needed.");
            }
        }

        private String lost(Instant since) {
            long days = Duration.between(since, now).toDays();
            String age = days == 0 ? "less than a day" : days + (days == 1 ? " day" : " days");
            return "Everything since " + day(since) + ", " + age + ", that has no other backup"
                + facts.filesSavedOn().map(on -> "; files were last backed up on " + Moments.fullDay(on)).orElse("") + ".";
        }

        private String day(Instant at) {
            return Moments.full(at, zone);
        }

        private String stick() {
            String how = (facts.facts().bootKey().isEmpty() ? "boot-menu key not known"
                : facts.facts().bootKey() + " at power-on opens the boot menu")
                + (facts.facts().firmware() == Firmware.UNKNOWN ? ""
                    : "; " + (facts.facts().firmware() == Firmware.UEFI ? "UEFI" : "BIOS")
                        + facts.facts().secureBoot().map(on -> on ? ", secure boot on" : ", secure boot off").orElse(""));
            if (facts.facts().bootKey().isEmpty()) {
                inTheWay.add("Nobody noted its boot-menu key. Try it once, and note it on the computer's page.");
            }
            if (facts.sticks().isEmpty()) {
                inTheWay.add("No rescue stick is known to boot it. Boot-test one before it is needed.");
                return "None is known to boot it (" + how + ").";
            }
            return String.join(" or ", facts.sticks()) + " (" + how + ").";
        }

        private String key() {
            if (facts.facts().encryption() == Encryption.UNKNOWN) {
                inTheWay.add("Nobody noted whether its disk is encrypted. Check, and note it on its page.");
                return "Nobody noted whether it is encrypted.";
            }
            if (facts.facts().encryption() == Encryption.NONE) {
                return "";
            }
            KeyPlace place = facts.facts().keyPlace();
            KeyPlace.warning(facts.computer(), facts.facts().encryption(), place, facts.facts().keyNote()).ifPresent(inTheWay::add);
            String note = facts.facts().keyNote().isEmpty() ? "" : ", " + facts.facts().keyNote();
            return place == KeyPlace.UNKNOWN ? "Nobody noted where its recovery key is kept."
                : "Its recovery key: " + place.phrase() + note + ".";
        }

        private List<String> withoutImage() {
            List<String> out = new ArrayList<>(swaps);
            out.add((swaps.isEmpty() ? "There is no image to bring back." : "There is no image besides.")
                + " Save what can be read of the disk, and set the computer up anew.");
            return out;
        }

        private List<String> steps(String stick, String key) {
            List<String> out = new ArrayList<>(List.of("Put the dead disk aside as it is; more may be read of it later."));
            out.addAll(swaps);
            out.add("Boot from the rescue stick: " + stick);
            out.addAll(restores);
            out.add("Take the stick out, start the computer, log in as " + (facts.owner().isEmpty() ? "its user" : facts.owner())
                + " would, open files and programs, compare sizes.");
            if (facts.facts().encryption() == Encryption.VOLUMES) {
                out.add("Switch encryption on again, and keep its new key off the computer. " + key);
            }
            out.add(facts.filesSavedOn().isPresent() ? "Bring back files that were saved after the image was made."
                : "Files newer than the image are lost unless they were saved elsewhere; ask "
                    + (facts.owner().isEmpty() ? "its user" : facts.owner()) + ".");
            return List.copyOf(out);
        }
    }
}

package app.granary.core.target;

import app.granary.core.disk.DiskIdentity;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * What speaks against overwriting a disk. The wrong disk overwritten is the one mistake that cannot be mended (common practice, no source),
 * so each of these refuses; none only warns.
 *
 * @param target        the disk
 * @param told          whether a person pulled it and plugged it in again while Granary watched, in this attachment of it
 * @param sourceSerials serials of the disk that is read from: of the drive the image lies on, of the disk that is copied, of the stick an
 *                      ISO lies on
 * @param onlyCopies    images that lie on the target and nowhere else
 * @param guarded       what the office keeps it as: "the spare of TRIPOD"; an empty string when nothing
 */
public record OverwriteRules(TargetDisk target, boolean told, Set<String> sourceSerials, List<String> onlyCopies, String guarded) {
    public OverwriteRules {
        sourceSerials = Set.copyOf(sourceSerials);
        onlyCopies = List.copyOf(onlyCopies);
    }

    /** Reasons as sentences; empty when it may be overwritten once it is confirmed. */
    public List<String> refusals() {
        List<String> out = new ArrayList<>();
        if (!target.attached()) {
            out.add(target.inFull() + " is not attached. Attach it, and look at its serial number.");
        }
        if (!target.identity().serial().isEmpty() && sourceSerials.contains(target.identity().serial())) {
            out.add(target.inFull() + " is the source: it would overwrite itself. Choose another disk.");
        }
        if (target.readOnly()) {
            out.add(target.inFull() + " is write-protected. Look for a switch on it; if there is none, it may be worn out: use another.");
        }
        if (!target.inUse().isEmpty()) {
            out.add(inUse(target));
        }
        if (!told && !target.twins().isEmpty()) {
            out.add(target.inFull() + " answers just as " + String.join(", ", target.twins())
                + (target.twins().size() == 1 ? " does" : " do")
                + ", so it cannot be told which would be overwritten. Take the others off, or pull the right one and plug it in again "
                + "while Granary watches.");
        } else if (!told && target.identity().serial().isBlank()) {
            out.add(target.inFull()
                + " gives no serial number, so it cannot be told from another of its kind. Pull it and plug it in again while Granary "
                + "watches.");
        }
        if (!guarded.isEmpty()) {
            out.add(target.inFull() + " is " + guarded + ". Retire it on the Restore page first, by its name.");
        }
        if (!onlyCopies.isEmpty()) {
            out.add(target.inFull() + " holds the only copy of "
                + (onlyCopies.size() == 1 ? onlyCopies.get(0) : onlyCopies.size() + " images, " + onlyCopies.get(0) + " among them")
                + ". Copy " + (onlyCopies.size() == 1 ? "it" : "them") + " to another drive first.");
        } else if (!target.images().isEmpty()) {
            out.add(target.inFull() + " holds " + target.images().size() + (target.images().size() == 1 ? " image" : " images")
                + ". Release or move " + (target.images().size() == 1 ? "it" : "them")
                + " first; a drive with images is never overwritten.");
        }
        return out;
    }

    /** The reason that its {@link TargetDisk#inUse} is. */
    public static String inUse(TargetDisk target) {
        return inUse(target.inFull(), target.inUse());
    }

    /** The same of any disk, one that is read too. */
    public static String inUse(String disk, String use) {
        return disk + " is in use: " + use + ". Nothing was begun. Unmount it, or start this computer from rescue media first.";
    }

    /** Of one that was confirmed and is not there at the moment of starting. */
    public static String gone(DiskIdentity confirmed) {
        return "The disk (" + confirmed.inWords()
            + ") is not attached any more, or cannot be told from another. Nothing was written. Attach it alone, and confirm it again.";
    }

    /** Whether it cannot be told by what it says: pulling it and plugging it in again would tell it. */
    public static boolean untold(TargetDisk target) {
        return target.attached() && (!target.twins().isEmpty() || target.identity().serial().isBlank());
    }

    /** The same, with what a person typed to confirm it; case and spaces around do not count. */
    public List<String> refusals(String typed) {
        List<String> out = new ArrayList<>(refusals());
        if (!typed.strip().equalsIgnoreCase(target.confirmation())) {
            out.add("\"" + typed.strip() + "\" does not match "
                + (target.identity().serial().isEmpty() ? "the last characters of its name"
                    : "the last four characters of the serial number of " + target.inFull())
                + ". Nothing was written. Read them off the disk itself, and type them.");
        }
        return out;
    }

    /**
     * At the moment of starting: what is not any more as it was confirmed. Whether it is in use is asked apart.
     *
     * @param held what it held when it was confirmed
     */
    public static List<String> another(TargetLook look, DiskIdentity confirmed, List<String> held) {
        TargetDisk now = look.disk();
        if (!now.identity().same(confirmed)) {
            return List.of("Another disk is there now: " + now.inFull() + ", and confirmed was " + confirmed.inWords()
                + ". Nothing was written. Put the right one back, or confirm the new one.");
        }
        if (now.readOnly()) {
            return List.of(now.inFull() + " is write-protected now. Nothing was written. Look for a switch on it, and confirm it again.");
        }
        if (!look.holds().equals(held)) {
            return List.of(
                now.inFull() + " does not hold any more what it held when it was confirmed. It holds now: " + String.join("; ",
                look.holds())
                    + ". Nothing was written. Look at it, and confirm it again.");
        }
        return List.of();
    }
}

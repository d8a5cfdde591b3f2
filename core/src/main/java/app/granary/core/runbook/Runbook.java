package app.granary.core.runbook;

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
import java.util.List;
import java.util.Locale;

/**
 * Steps in order, and what to look at afterwards. A restore tends to run faster than the capture (common practice, no source).
 *
 * @param title   what it is for
 * @param loss    what is lost by it, as a sentence
 * @param steps   with Granary
 * @param without the same with standard tools only, for when Granary is not there
 * @param checks  what is looked at before it is signed
 * @param unique  what must be made unique when the same image goes onto several computers
 */
public record Runbook(String title, String loss, List<Step> steps, List<Step> without, List<String> checks, List<String> unique) {
    /** What a person looks at after a restore (common practice, no source). */
    public static final List<String> CHECKS = List.of("It starts from its own disk, with the stick out", "Log-in works",
        "Files open: one new, one old, one large", "Programs start that are used every day", "Sizes are right: capacity, used, free");
    private static final String FUNCTION_TEST = "Its function test: what it controls does what it should";
    private static final String ENCRYPTED_AGAIN = "Encryption is on again, and its new key is kept off the computer";
    /** What two computers of one office must not share (common practice, no source). */
    public static final List<String> UNIQUE = List.of("Its computer name",
        "Its machine identity, which the system's own preparation tool makes anew", "Its host keys and certificates",
        "Licences that belong to one computer",
        "The account of whoever works at it");

    /**
     * @param lowMinutes  at best; 0 for what takes no time worth counting
     * @param highMinutes at worst
     * @param command     to type; an empty string when there is none
     */
    public record Step(String text, long lowMinutes, long highMinutes, String command) {
        static Step of(String text, long minutes) {
            return new Step(text, minutes, minutes, "");
        }
    }

    public long lowMinutes() {
        return steps.stream().mapToLong(Step::lowMinutes).sum();
    }

    public long highMinutes() {
        return steps.stream().mapToLong(Step::highMinutes).sum();
    }

    public static Runbook of(RunbookFacts f, Instant now, ZoneId zone) {
        String asOf = Moments.full(f.madeAt(), zone);
        long days = Duration.between(f.madeAt(), now).toDays();
        String loss = "Everything on the target is erased. " + f.computer() + " is back as of " + asOf + "; everything since then, "
            + (days == 0 ? "less than a day" : days + (days == 1 ? " day" : " days")) + ", is lost unless it was saved elsewhere.";
        List<String> checks = checks(f.role(), f.facts().encryption(), f.checks());
        return new Runbook(f.computer() + " from " + f.image() + f.target().map(t -> " onto " + t).orElse(""), loss, with(f), without(f),
            checks, UNIQUE);
    }

    /**
     * What a person looks at before it is signed. A controller is not back before what it controls was seen to work (common practice, no
     * source).
     *
     * @param own of this computer
     */
    public static List<String> checks(String role, Encryption encryption, List<String> own) {
        List<String> out = new ArrayList<>(CHECKS);
        if (role.toLowerCase(Locale.ROOT).contains("controller")) {
            out.add(FUNCTION_TEST);
        }
        out.addAll(own);
        if (encryption == Encryption.VOLUMES) {
            out.add(ENCRYPTED_AGAIN);
        }
        return out.stream().distinct().toList();
    }

    private static List<Step> before(RunbookFacts f) {
        List<Step> out = new ArrayList<>();
        out.add(Step.of("Put the dead disk aside as it is, labelled; more may be read of it later.", Hands.PUT_ASIDE));
        Hands.Minutes fetch = Hands.fetch(f.attached(), f.offSite());
        out.add(new Step("Fetch " + f.destination() + ": " + f.lies() + (f.attached() ? "; it is attached now." : "."), fetch.low(),
            fetch.high(), ""));
        String menu = (f.facts().bootKey().isEmpty() ? "Try Esc, F8, F9, F11 or F12 at power-on for the boot menu"
            : "Press " + f.facts().bootKey() + " at power-on for the boot menu")
            + (f.facts().firmware() == Firmware.UNKNOWN ? "" : "; firmware is " + (f.facts().firmware() == Firmware.UEFI ? "UEFI" : "BIOS")
                + f.facts().secureBoot().map(on -> on ? ", secure boot on" : ", secure boot off").orElse(""));
        out.add(Step.of(
            "Start " + f.computer() + " from "
                + (f.sticks().isEmpty() ? "a rescue stick; none is known to start it, so try KEY by KEY and note which does"
                    : String.join(" or ", f.sticks()))
                + ". " + menu + ".",
            f.bootMinutes()));
        return out;
    }

    private static List<Step> with(RunbookFacts f) {
        List<Step> out = new ArrayList<>(before(f));
        String onto = f.target().orElse("the new disk, large enough for the data in use");
        out.add(Step.of("In Granary choose Restore, the image " + f.image()
            + (f.proven().isEmpty() ? " (not proven: check it first)" : " (" + f.proven() + ")") + ", and " + onto
            + ". Read its serial number off the disk itself, and type its last four characters."
            + (f.encrypted() ? " Enter the image's passphrase." : ""), Hands.CHOOSE));
        f.moves().forEach(each -> out.add(Step.of(each, 0)));
        RestoreTime time = RestoreTime.of(f.bytes(), f.rates());
        out.add(new Step("Let it write, read back and compare.", time.lowMinutes(), time.highMinutes(), ""));
        f.after().forEach(each -> out.add(Step.of(each, 5)));
        out.addAll(afterwards(f));
        return out;
    }

    private static List<Step> afterwards(RunbookFacts f) {
        List<Step> out = new ArrayList<>();
        out.add(
            Step.of("Take the stick out, or the computer starts from it again. Start it, and go through the checks below.", Hands.START));
        if (f.facts().encryption() == Encryption.VOLUMES) {
            KeyPlace place = f.facts().keyPlace();
            out.add(Step.of(
                "An image of an unlocked system comes back unencrypted: switch encryption on again, and keep its new key off the "
                    + "computer. The old key: "
                    + (place == KeyPlace.UNKNOWN ? "nobody noted where it is" : place.phrase())
                    + (f.facts().keyNote().isEmpty() ? "" : ", " + f.facts().keyNote()) + ".",
                Hands.ENCRYPT_AGAIN));
        }
        out.add(
            Step.of("Bring back files newer than the image" + (f.owner().isEmpty() ? "" : "; ask " + f.owner()) + ".", Hands.NEWER_FILES));
        return out;
    }

    /** The image's own form is what makes this possible: frames one behind the other that standard tools decode. */
    private static List<Step> without(RunbookFacts f) {
        List<Step> out = new ArrayList<>(before(f));
        out.add(new Step("Find the target by its serial number, and nothing else. Call it /dev/sdX below.", 2, 5,
            "lsblk -o NAME,SIZE,MODEL,SERIAL"));
        out.add(new Step("Go to the image's folder on " + f.destination() + ", and see that it is whole.", 5, 30,
            "cd '" + f.image() + "' && sha256sum -c manifest-sha256.txt"));
        String decode = switch (f.codec()) {
            case "zstd", "stored" -> "zstd -dc";
            case "gzip" -> "gzip -dc";
            case "xz" -> "xz -dc";
            default -> "cat";
        };
        String read = f.encrypted() ? "for p in data/disk.img*.gpg; do gpg -d \"$p\"; done | " + decode : "cat data/disk.img* | " + decode;
        double seconds = RestoreTime.writing(f.bytes(), f.rates());
        out.add(new Step("Write it. Everything on /dev/sdX goes. The target must be at least as large as the disk was.",
            Math.max(1, Math.round(seconds / 60)), Math.max(2, Math.round(seconds * 3 / 60)),
            read + " | dd of=/dev/sdX bs=4M conv=fsync status=progress"));
        out.add(new Step("On a larger disk with a GPT, move its backup to the end.", 1, 1, "sgdisk -e /dev/sdX && sgdisk -v /dev/sdX"));
        out.addAll(afterwards(f));
        return out;
    }
}

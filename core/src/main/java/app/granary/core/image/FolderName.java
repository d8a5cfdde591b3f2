package app.granary.core.image;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * A folder on a drive, that every file system takes: at most {@value #MOST} characters in at most {@value #DEEPEST} steps.
 *
 * @param text steps with slashes between them; an empty string for the folder Granary keeps its images in
 */
public record FolderName(String text) {
    private static final int MOST = 200;
    private static final int DEEPEST = 8;
    /** Names that some systems keep for devices (common practice, no source). */
    private static final List<String> KEPT = List.of("con", "prn", "aux", "nul");

    /** @throws app.granary.core.fault.FaultException when some file system does not take it, or it leads out of the drive */
    public static FolderName parse(String text) throws IOException {
        String plain = text.strip().replaceAll("^/+|/+$", "");
        if (plain.isEmpty()) {
            return new FolderName("");
        }
        List<String> steps = Arrays.asList(plain.split("/", -1));
        boolean sound = plain.length() <= MOST && steps.size() <= DEEPEST && steps.stream().allMatch(FolderName::isSound);
        if (!sound) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, text, "\"" + text + "\" is no folder that every drive takes. Use letters, digits, "
                + "spaces, dots, hyphens and underscores, at most " + DEEPEST + " folders deep and " + MOST + " characters long; no step "
                + "begins or ends with a dot or a space.").asException();
        }
        return new FolderName(plain);
    }

    private static boolean isSound(String step) {
        String lower = step.toLowerCase(Locale.ROOT);
        String bare = lower.replaceAll("\\..*", "");
        return step.matches("[\\p{L}\\p{N}_-]([\\p{L}\\p{N} ._-]*[\\p{L}\\p{N}_-])?") && !KEPT.contains(bare)
            && !bare.matches("(com|lpt)[0-9]") && !lower.endsWith(ImageName.PARTIAL);
    }
}

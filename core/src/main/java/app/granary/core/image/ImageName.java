package app.granary.core.image;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * A name for an image that every file system and shell takes as it is: letters, digits, dot, hyphen, underscore; begins with a letter or
 * digit; at most 100 characters. Spaces are refused because an image whose name has them is not found again by scripts.
 */
public record ImageName(String text) {
    private static final Pattern ALLOWED = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._-]{0,99}");
    /** Names some systems keep for devices, with or without an ending (common practice, no source). */
    private static final Set<String> RESERVED = Set.of("CON", "PRN", "AUX", "NUL", "COM1", "COM2", "COM3", "COM4", "LPT1", "LPT2", "LPT3");
    public static final String PARTIAL = ".partial";

    /** @throws app.granary.core.fault.FaultException with a sentence that says what to change */
    public static ImageName parse(String text) throws IOException {
        String why = "";
        if (text.isEmpty()) {
            why = "A name is needed";
        } else if (text.contains("..")) {
            why = "A name may not contain \"..\"";
        } else if (!ALLOWED.matcher(text).matches()) {
            why = "The name \"" + printable(text) + "\" cannot be used on every destination";
        } else if (text.endsWith(".") || text.toLowerCase(Locale.ROOT).endsWith(PARTIAL)) {
            why = "A name may not end in \".\" or \".partial\"";
        } else if (RESERVED.contains(text.toUpperCase(Locale.ROOT).split("\\.")[0])) {
            why = "Some systems keep the name \"" + text + "\" for a device";
        }
        if (!why.isEmpty()) {
            throw Fault
                .of(Fault.Kind.BAD_CHOICE, "",
                    why + ". Use letters, digits, dot, hyphen and underscore, at most 100, beginning with a letter or digit.")
                .asException();
        }
        return new ImageName(text);
    }

    private static String printable(String text) {
        return text.substring(0, Math.min(40, text.length())).replaceAll("\\p{Cntrl}", "?");
    }
}

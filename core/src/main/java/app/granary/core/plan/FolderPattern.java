package app.granary.core.plan;

import app.granary.core.fault.Fault;
import app.granary.core.image.FolderName;
import app.granary.core.image.ImageName;
import java.io.IOException;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * In which folder of a drive images lie: up to {@value #MOST_STEPS} steps with slashes between them, of text and of {@code {computer}},
 * {@code {maker}}, {@code {model}}, {@code {system}} (with its build), {@code {disk}} and {@code {year}}. What some file system does not
 * take becomes a hyphen; what is not known of a computer reads {@code unknown}, so that every image lies equally deep.
 *
 * @param text an empty string where nothing of its own was chosen
 */
public record FolderPattern(String text) {
    public static final FolderPattern NONE = new FolderPattern("");
    private static final int LONGEST = 100;
    private static final int MOST_STEPS = 6;
    /** Six of these and the slashes between them are no longer than a {@link FolderName} may be. */
    private static final int LONGEST_STEP = 32;
    private static final String UNKNOWN = "unknown";
    private static final Pattern WORD = Pattern.compile("\\{([^{}]*)}");
    private static final Pattern DEVICE = Pattern.compile("(?i)(con|prn|aux|nul|com[0-9]|lpt[0-9])");
    /** As each reads in a sentence. */
    private static final Map<String, String> WORDS = Map.of("computer", "computer", "maker", "maker", "model", "model", "system",
        "system and build", "disk", "disk", "year", "year");
    private static final String SAY = "Use {computer}, {maker}, {model}, {system}, {disk} and {year}, with / between folders.";

    /** What the words stand for; empty strings for what is not known. */
    public record Words(String computer, String maker, String model, String system, String disk, Instant at, ZoneId zone) {
        String of(String word) {
            return switch (word) {
                case "computer" -> computer;
                case "maker" -> maker;
                case "model" -> model;
                case "system" -> system;
                case "disk" -> disk;
                default -> String.valueOf(at.atZone(zone).getYear());
            };
        }
    }

    /** @throws app.granary.core.fault.FaultException when a word in braces means nothing, or some file system does not take a step */
    public static FolderPattern parse(String text) throws IOException {
        String plain = text.strip().replaceAll("^/+|/+$", "");
        Matcher words = WORD.matcher(plain);
        while (words.find()) {
            if (!WORDS.containsKey(words.group(1))) {
                throw bad("\"{" + words.group(1) + "}\" stands for nothing in a folder. " + SAY);
            }
        }
        String bare = words.replaceAll("x");
        if (bare.matches(".*[{}].*")) {
            throw bad("A brace in the folder is not closed. " + SAY);
        }
        if (plain.length() > LONGEST || plain.split("/", -1).length > MOST_STEPS) {
            throw bad("A folder is at most " + MOST_STEPS + " deep and " + LONGEST + " characters long. Shorten it.");
        }
        FolderName.parse(bare);
        return new FolderPattern(plain);
    }

    private static IOException bad(String sentence) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "", sentence).asException();
    }

    public boolean isNone() {
        return text.isEmpty();
    }

    /** The folder, which every file system takes; an empty string for none. */
    public String folder(Words words) {
        return isNone() ? "" : steps().stream().map(step -> resolved(step, words)).collect(Collectors.joining("/"));
    }

    private List<String> steps() {
        return List.of(text.split("/", -1));
    }

    private static String resolved(String step, Words words) {
        String out = replaced(step, word -> portable(words.of(word)));
        int most = Math.min(LONGEST_STEP, out.length());
        int whole = most < out.length() && Character.isLowSurrogate(out.charAt(most)) ? most - 1 : most;
        String cut = out.substring(0, whole).replaceAll("[^\\p{L}\\p{N}_-]+$", "");
        boolean kept = DEVICE.matcher(cut.replaceAll("\\..*", "")).matches() || cut.toLowerCase(Locale.ROOT).endsWith(ImageName.PARTIAL);
        return kept ? "_" + cut.replace('.', '-') : cut;
    }

    private static String portable(String part) {
        String plain = part.replaceAll("[^\\p{L}\\p{N}_]+", "-").replaceAll("^-+|-+$", "");
        return plain.isEmpty() ? UNKNOWN : plain;
    }

    private static String replaced(String step, UnaryOperator<String> word) {
        return WORD.matcher(step).replaceAll(found -> Matcher.quoteReplacement(word.apply(found.group(1))));
    }

    /** As a sentence. */
    public String sentence() {
        if (isNone()) {
            return "In Granary's own folder on the drive.";
        }
        List<String> out = new ArrayList<>();
        for (String step : steps()) {
            List<String> named = WORD.matcher(step).results().map(found -> WORDS.get(found.group(1))).distinct().toList();
            out.add(named.isEmpty() ? "one named " + step : "one for each " + String.join(" and ", named));
        }
        return "A folder" + out.get(0).substring("one".length())
            + out.stream().skip(1).map(step -> ", in it " + step).collect(Collectors.joining()) + ".";
    }
}

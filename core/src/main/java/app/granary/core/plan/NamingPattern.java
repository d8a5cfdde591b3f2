package app.granary.core.plan;

import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import java.io.IOException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How images are named: text with {@code {computer}}, {@code {disk}} and {@code {date}}, which stands for the UTC date and time
 * {@code 20261124-0214Z}. What some file system or shell does not take becomes a hyphen.
 */
public record NamingPattern(String text) {
    public static final NamingPattern USUAL = new NamingPattern("{computer}-{disk}-{date}");
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("yyyyMMdd-HHmm'Z'").withZone(ZoneOffset.UTC);
    private static final Pattern WORD = Pattern.compile("\\{([^{}]*)}");
    private static final List<String> WORDS = List.of("computer", "disk", "date");
    private static final int LONGEST = 100;
    private static final int LONGEST_STAMP = 14;

    /** @throws app.granary.core.fault.FaultException when it has no date, or a word in braces that means nothing */
    public static NamingPattern parse(String text) throws IOException {
        Matcher words = WORD.matcher(text);
        boolean dated = false;
        while (words.find()) {
            if (!WORDS.contains(words.group(1))) {
                throw bad("\"{" + words.group(1) + "}\" stands for nothing. Use {computer}, {disk} and {date}.");
            }
            dated |= words.group(1).equals("date");
        }
        if (!dated) {
            throw bad("The naming needs {date}, or every image would have the same name. Add it, for example at the end.");
        }
        if (words.replaceAll("").matches(".*[{}].*")) {
            throw bad("A brace in the naming is not closed. Write {computer}, {disk} and {date} whole.");
        }
        if (text.length() > LONGEST) {
            throw bad("The naming is longer than " + LONGEST + " characters. Shorten it.");
        }
        NamingPattern pattern = new NamingPattern(text);
        ImageName.parse(pattern.name("PC", "disk", Instant.EPOCH));
        return pattern;
    }

    private static IOException bad(String sentence) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "", sentence).asException();
    }

    /** A name every file system takes; the date is never cut off, what stands before it is. */
    public String name(String computer, String disk, Instant at) {
        String date = STAMP.format(at);
        // cut the longest part until the whole fits
        String shortDisk = disk;
        String shortComputer = computer;
        String out = resolved(shortComputer, shortDisk, date);
        while (out.length() > LONGEST && shortComputer.length() + shortDisk.length() > 0) {
            if (shortDisk.length() >= shortComputer.length()) {
                shortDisk = shortDisk.substring(0, shortDisk.length() - 1);
            } else {
                shortComputer = shortComputer.substring(0, shortComputer.length() - 1);
            }
            out = resolved(shortComputer, shortDisk, date);
        }
        return out.length() <= LONGEST ? out : out.substring(0, LONGEST - LONGEST_STAMP).replaceAll("[^A-Za-z0-9]+$", "") + date;
    }

    /** The name itself, or with the first number behind it that is not taken: two images of a disk may be made within one minute. */
    public static String free(String name, Predicate<String> taken) {
        String out = name;
        for (int i = 2; taken.test(out); i++) {
            String number = "-" + i;
            out = name.substring(0, Math.min(name.length(), LONGEST - number.length())) + number;
        }
        return out;
    }

    private String resolved(String computer, String disk, String date) {
        String plain = text.replace("{computer}", portable(computer)).replace("{disk}", portable(disk)).replace("{date}", date);
        return plain.replaceAll("[^A-Za-z0-9._-]+", "-").replaceAll("\\.{2,}", ".").replaceAll("-{2,}", "-")
            .replaceAll("^[^A-Za-z0-9]+", "").replaceAll("[.-]+$", "");
    }

    private static String portable(String part) {
        return part.replaceAll("[^A-Za-z0-9_-]+", "-").replaceAll("^-+|-+$", "");
    }
}

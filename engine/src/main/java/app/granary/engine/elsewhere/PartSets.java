package app.granary.engine.elsewhere;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Which files are parts of one image: endings numbered from 0 or 1 on, with zeros in front or without, or the endings {@code split} gives:
 * aa, ab and so on, and when those run short longer ones, yz before zaaa, 89 before 9000 (GNU coreutils manual, split invocation). Any
 * other file stands for itself.
 */
final class PartSets {
    private static final Pattern NUMBERED = Pattern.compile("(.+?)[._-]?(?:part)?(?<=[._-]|part)(\\d{1,8})");
    private static final Pattern LETTERED = Pattern.compile("(.+?)[._-]?(?:part)?(?<=[._-]|part)([a-z]{2,8})");

    /**
     * @param name  what the parts' names have in common, or the file's name
     * @param files in order
     * @param gap   the file after which one is not there, though later ones are; an empty string when none is missing
     */
    record Set(String name, List<String> files, String gap) {
    }

    private record Part(String file, String ending) {
        /** Without zeros in front the endings go by their number, otherwise as they are written. */
        private long number() {
            return Long.parseLong(ending);
        }
    }

    private PartSets() {
    }

    /** @param names of the files in one folder */
    static List<Set> of(List<String> names) {
        Map<String, List<Part>> groups = new TreeMap<>();
        for (String name : names) {
            for (Pattern pattern : List.of(NUMBERED, LETTERED)) {
                Matcher matcher = pattern.matcher(name);
                if (matcher.matches()) {
                    groups.computeIfAbsent(matcher.group(1) + (pattern == NUMBERED ? "/0" : "/a"), key -> new ArrayList<>())
                        .add(new Part(name, matcher.group(2)));
                }
            }
        }
        List<String> alone = new ArrayList<>(names);
        List<Set> out = new ArrayList<>();
        groups.forEach((key, parts) -> {
            boolean counted = key.endsWith("0")
                && parts.stream().noneMatch(part -> part.ending.length() > 1 && part.ending.startsWith("0"));
            parts.sort(counted ? Comparator.comparingLong(Part::number) : Comparator.comparing(Part::ending));
            if (isFirst(parts.get(0).ending) && (parts.size() > 1 || !counted)) {
                alone.removeAll(parts.stream().map(Part::file).toList());
                out.add(new Set(key.substring(0, key.length() - 2), parts.stream().map(Part::file).toList(), gap(parts, counted)));
            }
        });
        alone.forEach(name -> out.add(new Set(name, List.of(name), "")));
        return out;
    }

    private static boolean isFirst(String ending) {
        return ending.matches("0*[01]|a+");
    }

    private static String gap(List<Part> parts, boolean counted) {
        for (int i = 1; i < parts.size(); i++) {
            Part before = parts.get(i - 1);
            String ending = parts.get(i).ending;
            String next = next(before.ending);
            boolean follows = counted ? parts.get(i).number() == before.number() + 1
                : ending.equals(next) || ending.equals(next + "00") || ending.equals(next + "aa");
            if (!follows) {
                return before.file;
            }
        }
        return "";
    }

    /** The ending after one of the same length: 01 after 00, ba after az; the same again at the end of all. */
    private static String next(String ending) {
        char[] letters = ending.toCharArray();
        for (int i = letters.length - 1; i >= 0; i--) {
            char last = Character.isDigit(letters[i]) ? '9' : 'z';
            if (letters[i] < last) {
                letters[i]++;
                return new String(letters);
            }
            letters[i] = last == '9' ? '0' : 'a';
        }
        return ending;
    }
}

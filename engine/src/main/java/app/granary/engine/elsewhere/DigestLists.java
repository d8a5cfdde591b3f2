package app.granary.engine.elsewhere;

import app.granary.engine.bag.Bag;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * SHA-256 digests that lie beside files, in the forms {@code sha256sum} writes (with and without {@code --tag}), by file name; and, for the
 * payload of a bag made with other tools, its manifest (RFC 8493). A line that is none is passed over: such lists are written by hand too.
 */
final class DigestLists {
    private static final long LONGEST = 4L << 20;
    private static final Pattern PLAIN = Pattern.compile("\\\\?([0-9a-fA-F]{64})(?:[ \t]+\\*?(.+))?");
    private static final Pattern TAGGED = Pattern.compile("SHA256 ?\\((.+)\\) ?= ?([0-9a-fA-F]{64})");

    /** @param source the list's file name */
    record Known(String digest, String source) {
    }

    private final Map<String, Known> byName = new LinkedHashMap<>();

    /** Those for files that lie directly in a folder. */
    static DigestLists of(Path folder) throws IOException {
        DigestLists out = new DigestLists();
        List<Path> lists = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            files.filter(DigestLists::isList).sorted().forEach(lists::add);
        }
        for (Path list : lists) {
            out.read(list, "");
        }
        Path bag = folder.getParent();
        if (bag != null && folder.endsWith("data") && Files.isRegularFile(bag.resolve(Bag.MANIFEST), LinkOption.NOFOLLOW_LINKS)) {
            out.read(bag.resolve(Bag.MANIFEST), "data/");
        }
        return out;
    }

    static boolean isList(Path file) {
        String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
        boolean named = name.matches("sha256sums?(\\.txt)?|manifest-sha256\\.txt|checksums?\\.txt") || name.endsWith(".sha256")
            || name.endsWith(".sha256sum");
        return named && Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS);
    }

    Optional<Known> of(String name) {
        return Optional.ofNullable(byName.get(name));
    }

    private void read(Path list, String within) throws IOException {
        if (Files.size(list) > LONGEST) {
            return;
        }
        String file = list.getFileName().toString();
        for (String line : Files.readString(list, StandardCharsets.ISO_8859_1).split("\r?\n")) {
            Matcher tagged = TAGGED.matcher(line.strip());
            Matcher plain = PLAIN.matcher(line.strip());
            if (tagged.matches()) {
                put(tagged.group(1), within, tagged.group(2), file);
            } else if (plain.matches()) {
                String own = file.replaceAll("(?i)\\.sha256(sum)?$", "");
                put(plain.group(2) == null ? own : plain.group(2), within, plain.group(1), file);
            }
        }
    }

    /** Only names in this folder; the bytes of a name with an escape or in another encoding are compared as they stand. */
    private void put(String name, String within, String digest, String list) {
        String bare = name.startsWith("./") ? name.substring(2) : name;
        if (bare.startsWith(within) && bare.indexOf('/', within.length()) < 0) {
            byName.putIfAbsent(utf8(bare.substring(within.length())), new Known(digest.toLowerCase(Locale.ROOT), list));
        }
    }

    private static String utf8(String name) {
        return new String(name.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8);
    }
}

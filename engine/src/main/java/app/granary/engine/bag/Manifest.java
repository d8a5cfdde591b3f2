package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A list of files with their SHA-256 digests, one {@code digest, two spaces, path} a line (RFC 8493, section 2.1.3), which
 * {@code sha256sum -c} reads as well. Read strictly, so that a changed bit anywhere in it shows.
 *
 * @param digests path within the bag to digest in lower-case hexadecimal, in file order
 */
public record Manifest(Map<String, String> digests) {
    private static final Pattern LINE = Pattern.compile("([0-9a-f]{64})  ([A-Za-z0-9][A-Za-z0-9._/-]{0,200})");

    public Manifest {
        digests = Collections.unmodifiableMap(new LinkedHashMap<>(digests));
    }

    public String text() {
        StringBuilder out = new StringBuilder();
        digests.forEach((path, digest) -> out.append(digest).append("  ").append(path).append('\n'));
        return out.toString();
    }

    /** @throws app.granary.core.fault.FaultException naming the first line that cannot be read */
    public static Manifest parse(String text, String file) throws IOException {
        Map<String, String> digests = new LinkedHashMap<>();
        List<String> lines = new ArrayList<>(List.of(text.split("\n", -1)));
        boolean ends = lines.remove(lines.size() - 1).isEmpty() && !lines.isEmpty();
        for (int i = 0; i < lines.size() && ends; i++) {
            Matcher line = LINE.matcher(lines.get(i));
            if (!line.matches() || line.group(2).contains("..") || digests.put(line.group(2), line.group(1)) != null) {
                throw damaged(file, "line " + (i + 1) + " is no digest and path");
            }
        }
        if (!ends) {
            throw damaged(file, "it does not end with a whole line");
        }
        return new Manifest(digests);
    }

    private static IOException damaged(String file, String why) {
        return Fault.of(Fault.Kind.DAMAGED, file, file + " is damaged: " + why + ".").asException();
    }
}

package app.granary.engine.restore;

import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.Problem;
import app.granary.engine.codec.Chunks;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How far a restore got, in a small file: what was to be done as one line, the number of chunks that are surely on the target as another,
 * and a line for each damaged chunk that was passed over before, which a carrying on does not meet again.
 */
public final class RestoreLog {
    private static final int LONGEST = 1 << 20;
    private static final Pattern PASSED = Pattern.compile("passed ([0-9]{1,15}) ([0-9]{1,15}) (.*)");

    private final Path file;
    private final String targetSerial;

    public RestoreLog(Path file, String targetSerial) {
        this.file = file;
        this.targetSerial = targetSerial;
    }

    /** Source, target and layout in one line: work that differs in any of them is not carried on. */
    private String task(String source, RestoreLayout layout) {
        StringBuilder out = new StringBuilder(source).append(" onto ").append(targetSerial).append(' ').append(layout.target().sizeBytes());
        for (Placed each : layout.placed()) {
            out.append(' ').append(each.to().number()).append('@').append(each.to().startBytes()).append('+').append(each.to().sizeBytes());
        }
        return out.toString();
    }

    /**
     * What was done.
     *
     * @param chunks     that need not be written again; 0 where nothing is known, or of other work
     * @param passedOver damage within them
     */
    record Done(long chunks, List<Problem> passedOver) {
        private static final Done NOTHING = new Done(0, List.of());
    }

    Done done(String source, RestoreLayout layout) throws IOException {
        if (!Files.exists(file) || Files.size(file) > LONGEST) {
            return Done.NOTHING;
        }
        List<String> lines = Files.readAllLines(file, StandardCharsets.UTF_8);
        if (lines.size() < 2 || !lines.get(0).equals(task(source, layout)) || !lines.get(1).matches("[0-9]{1,15}")) {
            return Done.NOTHING;
        }
        List<Problem> passed = new ArrayList<>();
        for (String line : lines.subList(2, lines.size())) {
            Matcher match = PASSED.matcher(line);
            if (!match.matches()) {
                return Done.NOTHING; // a log that was tampered with says nothing
            }
            long start = Long.parseLong(match.group(1));
            long end = Long.parseLong(match.group(2));
            if (start % Chunks.BYTES != 0 || end <= start || end - start > Chunks.BYTES) {
                return Done.NOTHING; // no chunk
            }
            passed.add(new Problem("", 0, 0, "", start, end, match.group(3)));
        }
        long chunks = Long.parseLong(lines.get(1));
        return new Done(chunks, passed.stream().filter(each -> each.diskStartBytes() < chunks * Chunks.BYTES).toList());
    }

    void note(String source, RestoreLayout layout, long chunks, List<Problem> passedOver) throws IOException {
        StringBuilder text = new StringBuilder(task(source, layout)).append('\n').append(chunks).append('\n');
        for (Problem each : passedOver) {
            text.append("passed ").append(each.diskStartBytes()).append(' ').append(each.diskEndBytes()).append(' ')
                .append(each.message().replaceAll("\\R", " ")).append('\n');
        }
        if (text.length() > LONGEST) {
            return; // so much damage is not carried on from here: what was noted before stands
        }
        Path partial = file.resolveSibling(file.getFileName() + ".partial");
        Files.writeString(partial, text);
        try (FileChannel channel = FileChannel.open(partial, StandardOpenOption.WRITE)) {
            channel.force(true);
        }
        Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        Folders.sync(file.toAbsolutePath().getParent());
    }

    void done() throws IOException {
        Files.deleteIfExists(file);
    }
}

package app.granary.server.inside;

import app.granary.core.fault.FaultException;
import app.granary.engine.files.FileLine;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.files.FolderWalk;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Insides;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Bytes of files in an image, piece by piece from wherever the image lies; a folder goes as one ZIP. */
record InsideFiles(Insides insides, ImageAt image) {
    /** A ZIP takes 65 535 bytes of it; a character is at most three, and a name of 255 comes after. */
    private static final int LONGEST_PATH = 20_000;
    private static final String NOT_FETCHED = "not-fetched.txt";

    /** The bytes of a file; nothing is read before it is asked for. */
    InputStream content(FilePlace file) {
        return new InputStream() {
            private byte[] piece = {};
            private int at;
            private long done;

            @Override
            public int read() throws IOException {
                byte[] one = new byte[1];
                return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
            }

            @Override
            public int read(byte[] into, int offset, int length) throws IOException {
                if (at == piece.length) {
                    piece = insides.bytes(image, file, done, Insides.MOST_BYTES);
                    at = 0;
                    done += piece.length;
                }
                if (piece.length == 0) {
                    return length == 0 ? 0 : -1;
                }
                int count = Math.min(length, piece.length - at);
                System.arraycopy(piece, at, into, offset, count);
                at += count;
                return count;
            }
        };
    }

    /** What came of a folder. */
    record Zipped(long files, long bytes, List<String> passedOver) {
    }

    private record Open(FilePlace folder, String path) {
    }

    /** What cannot be read is left out, and listed in a file of its own at the end. */
    Zipped zip(FilePlace folder, OutputStream out) throws IOException {
        List<String> passedOver = new ArrayList<>();
        FolderWalk<Open> walk = new FolderWalk<>(new Open(folder, ""), insides.file(image, folder).line().id());
        long files = 0;
        long bytes = 0;
        ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8);
        zip.setLevel(Deflater.BEST_SPEED);
        while (!walk.ended()) {
            Open now = walk.next().orElseThrow().folder();
            for (FileLine each : lines(now, passedOver)) {
                String path = now.path + each.name();
                if (!each.unreadable().isEmpty() || !each.leadsDown() && !each.kind().equals("file")) {
                    passedOver.add(path + ": " + (each.unreadable().isEmpty() ? "it is neither a file nor a folder" : each.unreadable()));
                } else if (each.leadsDown()) {
                    if (path.length() > LONGEST_PATH) {
                        passedOver.add(each.name() + " and what is in it: its path is too long for a ZIP");
                    } else if (walk.enter(new Open(now.folder.below(each.name()), path + "/"), each.id(), List.of())) {
                        entry(zip, path + "/", each);
                    } else {
                        passedOver.add(path + ": it leads back to a folder that was fetched already");
                    }
                } else {
                    entry(zip, path, each);
                    try {
                        bytes += content(now.folder.below(each.name())).transferTo(zip);
                        files++;
                    } catch (FaultException unreadable) {
                        passedOver.add(path + ": " + unreadable.fault().sentence());
                    }
                }
            }
        }
        if (!passedOver.isEmpty()) {
            zip.putNextEntry(new ZipEntry(NOT_FETCHED));
            zip.write(String.join("\n", passedOver).concat("\n").getBytes(StandardCharsets.UTF_8));
        }
        zip.finish();
        return new Zipped(files, bytes, passedOver);
    }

    private List<FileLine> lines(Open folder, List<String> passedOver) throws IOException {
        try {
            return insides.list(image, folder.folder, FolderPage.Asked.ALL).lines();
        } catch (FaultException damaged) {
            passedOver.add(folder.path + ": " + damaged.fault().sentence());
            return List.of();
        }
    }

    private static void entry(ZipOutputStream zip, String path, FileLine line) throws IOException {
        ZipEntry entry = new ZipEntry(path);
        entry.setLastModifiedTime(FileTime.from(line.modifiedAt()));
        zip.putNextEntry(entry);
    }
}

package app.granary.engine.elsewhere;

import app.granary.engine.bag.Digests;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The files of an image one after another as one stream, digested as they pass. One thread. */
final class JoinedFiles extends InputStream {
    private final Path folder;
    private final List<ElsewhereFile> files;
    private final boolean digesting;
    private final Watch watch;
    private final long totalBytes;
    private final Map<String, String> digests = new LinkedHashMap<>();
    private final MessageDigest joined = Digests.sha256();
    private MessageDigest own = Digests.sha256();
    private int file;
    private InputStream in;
    private long passed;
    private long passedInFile;

    /** @param digesting whether digests are wanted; they cost more than the reading */
    JoinedFiles(Path folder, List<ElsewhereFile> files, boolean digesting, Watch watch) {
        this.folder = folder;
        this.files = files;
        this.digesting = digesting;
        this.watch = watch;
        this.totalBytes = files.stream().mapToLong(ElsewhereFile::bytes).sum();
    }

    /** The first bytes of all files together, at most so many. */
    static byte[] firstBytes(Path folder, List<ElsewhereFile> files, int most) throws IOException {
        try (InputStream in = new JoinedFiles(folder, files, false, Watch.NONE)) {
            return in.readNBytes(most);
        }
    }

    /** The same stream for one who closes it when done, though it is read on. */
    InputStream kept() {
        return new FilterInputStream(this) {
            @Override
            public void close() {
                // whoever opened the files closes them
            }
        };
    }

    /** Of the files that passed whole, by name. */
    Map<String, String> digests() {
        return digests;
    }

    /** Of all of them; call once, at the end. */
    String joinedDigest() {
        return Digests.hex(joined.digest());
    }

    long passedBytes() {
        return passed;
    }

    /** The file that is being read, and where in it. */
    String where() {
        return files.get(Math.min(file, files.size() - 1)).name();
    }

    long offsetBytes() {
        return passedInFile;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        while (file < files.size() && length > 0) {
            if (in == null) {
                watch.requireGoingOn(files.get(file).name());
                in = Files.newInputStream(folder.resolve(files.get(file).name()), LinkOption.NOFOLLOW_LINKS);
                passedInFile = 0;
                own = Digests.sha256();
            }
            int count = in.read(into, from, length);
            if (count > 0) {
                passed(into, from, count);
                return count;
            }
            digests.put(files.get(file).name(), Digests.hex(own.digest()));
            in.close();
            in = null;
            file++;
        }
        return length == 0 ? 0 : -1;
    }

    private void passed(byte[] bytes, int from, int count) throws IOException {
        if (digesting) {
            Digests.update(own, bytes, from, count);
            if (files.size() > 1) {
                Digests.update(joined, bytes, from, count);
            }
        }
        passed += count;
        passedInFile += count;
        watch.requireGoingOn(where());
        watch.advanced(new Progress(Progress.Stage.CHECKING, Math.min(passed, totalBytes), totalBytes, 0));
    }

    @Override
    public void close() throws IOException {
        if (in != null) {
            in.close();
        }
    }
}

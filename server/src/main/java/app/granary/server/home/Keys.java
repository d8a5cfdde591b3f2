package app.granary.server.home;

import java.io.IOException;
import java.io.StringReader;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.security.SecureRandom;
import java.util.HexFormat;
import java.util.Properties;
import java.util.Set;

/**
 * The passwords of the database's two users, made at random and kept in a file beside the database that only its owner may read. They keep
 * other programs and accounts of this machine out; who may read this folder may read the database.
 *
 * @param owner  of the user the tables belong to
 * @param worker of the user the program works as
 */
public record Keys(String owner, String worker) {
    /** Of a database made before there were passwords. */
    public static final Keys NONE = new Keys("", "");
    /** In the database's folder, and in a copy of it. */
    public static final String FILE = "keys";
    private static final int BYTES = 24;

    @Override
    public String toString() {
        return "the database's keys"; // never the passwords
    }

    static Keys random(SecureRandom random) {
        return new Keys(word(random), word(random));
    }

    private static String word(SecureRandom random) {
        byte[] bytes = new byte[BYTES];
        random.nextBytes(bytes);
        return HexFormat.of().formatHex(bytes);
    }

    /** @return those of a database's folder; {@link #NONE} where there is no such file */
    public static Keys of(Path folder) throws IOException {
        Path file = folder.resolve(FILE);
        return Files.exists(file) ? parse(Files.readString(file)) : NONE;
    }

    static Keys parse(String text) throws IOException {
        Properties lines = new Properties();
        lines.load(new StringReader(text));
        return new Keys(lines.getProperty("owner", "").strip(), lines.getProperty("worker", "").strip());
    }

    /** Readable by its owner alone from its first moment, forced to the device, then named. */
    void write(Path file) throws IOException {
        Path partial = file.resolveSibling(file.getFileName() + ".new");
        Files.deleteIfExists(partial);
        try (FileChannel out = FileChannel.open(partial, Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE),
            Private.file())) {
            out.write(ByteBuffer.wrap(("owner=" + owner + "\nworker=" + worker + "\n").getBytes(StandardCharsets.UTF_8)));
            out.force(true);
        }
        Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE);
        app.granary.engine.source.Folders.sync(file.toAbsolutePath().getParent());
    }
}

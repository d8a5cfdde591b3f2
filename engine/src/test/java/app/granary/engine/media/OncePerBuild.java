package app.granary.engine.media;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * What many tests start from and what takes long to make: made once, kept under the build folder, and copied for each test, so that none
 * sees what another wrote. It is kept by its name and by the digest of its recipe: a changed recipe makes it anew. Test programs that run
 * at once wait for one another.
 */
public final class OncePerBuild {
    private OncePerBuild() {
    }

    /** Makes it in an empty folder. */
    public interface Making {
        void in(Path folder) throws IOException;
    }

    /**
     * Copies all files of the kept folder into {@code folder}, holes as holes.
     *
     * @param recipe everything its content depends on; any other recipe is another thing
     */
    public static void copy(String name, String recipe, Path folder, Making making) {
        Tools.run(folder, "cp -a --reflink=auto --sparse=auto '" + kept(name, recipe, making) + "/.' .");
    }

    /**
     * Puts the made-up office's disks, which {@code ./granary test} made before, into the data folder of a server or an office to be;
     * without them they are made there.
     */
    public static void office(Path office) throws IOException {
        String made = System.getProperty("granary.office", "");
        if (!made.isEmpty()) {
            Tools.run(Files.createDirectories(office), "cp -a --reflink=auto '" + made + "/office/.' .");
        }
    }

    private static synchronized Path kept(String name, String recipe, Making making) {
        try {
            Path all = Files.createDirectories(Path.of(System.getProperty("granary.build", "target")).resolve("media")).toAbsolutePath();
            Path kept = all.resolve(name + "-" + digest(recipe));
            if (!Files.exists(kept)) {
                try (FileChannel lock = FileChannel.open(all.resolve("lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
                    lock.lock(); // released when it is closed
                    if (!Files.exists(kept)) {
                        Path partial = all.resolve(name + ".partial");
                        Tools.run(all, "rm -rf '" + partial + "' '" + all.resolve(name) + "'-*");
                        making.in(Files.createDirectories(partial));
                        Files.move(partial, kept, StandardCopyOption.ATOMIC_MOVE);
                    }
                }
            }
            return kept;
        } catch (IOException failed) {
            throw new AssertionError(name, failed);
        }
    }

    private static String digest(String recipe) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(recipe.getBytes(StandardCharsets.UTF_8)), 0, 8);
        } catch (NoSuchAlgorithmException never) {
            throw new AssertionError(never);
        }
    }
}

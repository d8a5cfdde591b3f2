package app.granary.server.database;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.h2.store.fs.FilePath;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DurableFileTest {
    /** open(2) on x86 and arm64, "O_DSYNC" (asm-generic/fcntl.h). */
    private static final int O_DSYNC = 010000;
    @TempDir
    private Path folder;

    private Connection open(String scheme, Path database) throws Exception {
        DurableFile.register();
        return DriverManager.getConnection("jdbc:h2:" + scheme + ":" + database.toAbsolutePath(), "granary", "x");
    }

    /** What the kernel says of the open file: proc(5), "/proc/pid/fdinfo". */
    @Test
    void theKernelWaitsForTheDeviceAtEachWriteOfTheDatabase() throws Exception {
        try (Connection database = open("durable", folder.resolve("db")); Stream<Path> open = Files.list(Path.of("/proc/self/fd"))) {
            List<Path> ours = open.filter(fd -> leadsTo(fd, folder.resolve("db.mv.db"))).toList();
            assertEquals(1, ours.size());
            String flags = Files.readAllLines(Path.of("/proc/self/fdinfo").resolve(ours.get(0).getFileName())).stream()
                .filter(line -> line.startsWith("flags:")).findFirst().orElseThrow().substring(6).strip();
            assertEquals(O_DSYNC, Integer.parseInt(flags, 8) & O_DSYNC, flags);
            assertEquals("rw-------", PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.resolve("db.mv.db"))));
        }
    }

    private static boolean leadsTo(Path fd, Path file) {
        try {
            return Files.readSymbolicLink(fd).equals(file.toAbsolutePath());
        } catch (IOException closedMeanwhile) {
            return false;
        }
    }

    /** Random writes, reads and cuts against an array of bytes. */
    @Test
    void itReadsBackWhatWasWrittenHoweverItGrew() throws IOException {
        DurableFile.register();
        for (int seed = 0; seed < 20; seed++) {
            Random random = new Random(seed);
            byte[] model = new byte[0];
            try (FileChannel file = FilePath.get("durable:" + folder.resolve("file-" + seed)).open("rw")) {
                for (int i = 0; i < 60; i++) {
                    if (random.nextInt(8) == 0) {
                        model = Arrays.copyOf(model, random.nextInt(model.length + 1));
                        file.truncate(model.length);
                    } else {
                        byte[] content = new byte[1 + random.nextInt(random.nextInt(6) == 0 ? 3 * SteppedFile.STEP_BYTES : 9000)];
                        random.nextBytes(content);
                        int at = random.nextInt(3) == 0 ? random.nextInt(model.length + 1) : model.length;
                        assertEquals(content.length, file.write(ByteBuffer.wrap(content), at));
                        model = Arrays.copyOf(model, Math.max(model.length, at + content.length));
                        System.arraycopy(content, 0, model, at, content.length);
                    }
                    ByteBuffer back = ByteBuffer.allocate(model.length);
                    while (back.hasRemaining() && file.read(back, back.position()) > 0) {
                        // on
                    }
                    assertArrayEquals(model, back.array(), "seed " + seed);
                    assertTrue(file.size() >= model.length && file.size() <= model.length + 2L * SteppedFile.STEP_BYTES);
                }
            }
        }
    }

    /**
     * H2 finds its newest commit in what a kill leaves, zeros behind it or not: the file as it is after each commit is opened as any
     * database.
     */
    @Test
    void theFileAsItIsAfterEachCommitHoldsIt() throws Exception {
        try (Connection database = open("durable", folder.resolve("db")); Statement sql = database.createStatement()) {
            sql.execute("create table line(id int primary key, text varchar)");
            sql.execute("set write_delay 0");
            for (int i = 1; i <= 120; i++) {
                sql.execute("insert into line values(" + i + ", '" + "x".repeat(i * 37 % 5000) + "')");
                if (i % 3 == 0) {
                    Files.copy(folder.resolve("db.mv.db"), folder.resolve("left.mv.db"), StandardCopyOption.REPLACE_EXISTING);
                    try (Connection left = open("file", folder.resolve("left"));
                        Statement asked = left.createStatement();
                        ResultSet rows = asked.executeQuery("select count(*), max(id) from line")) {
                        assertTrue(rows.next());
                        assertEquals(i, rows.getInt(1));
                        assertEquals(i, rows.getInt(2));
                    }
                }
            }
        }
    }

    /**
     * A thread that is stopped while it reads or writes closes a file opened the usual way (java.nio.channels.InterruptibleChannel), and
     * with it the database for all others.
     */
    @Test
    void whoIsStoppedInTheMiddleDoesNotCloseItForTheOthers() throws Exception {
        try (Connection database = open("durable", folder.resolve("db")); Statement sql = database.createStatement()) {
            sql.execute("create table line(id int primary key, text varchar)");
            sql.execute("set write_delay 0");
            for (int i = 0; i < 50; i++) {
                int id = i;
                Thread stopped = new Thread(() -> {
                    try (Connection own = open("durable", folder.resolve("db")); Statement insert = own.createStatement()) {
                        Thread.currentThread().interrupt();
                        insert.execute("insert into line values(" + id + ", '" + "x".repeat(3000) + "')");
                    } catch (Exception refused) {
                        // it may be refused; the others go on
                    }
                });
                stopped.start();
                stopped.join();
                sql.execute("insert into line values(" + (1000 + i) + ", 'y')");
            }
            try (ResultSet rows = sql.executeQuery("select count(*) from line where id >= 1000")) {
                assertTrue(rows.next());
                assertEquals(50, rows.getInt(1));
            }
        }
    }
}

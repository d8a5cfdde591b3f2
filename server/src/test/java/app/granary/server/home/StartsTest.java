package app.granary.server.home;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.engine.media.Tools;
import app.granary.server.Server;
import java.io.File;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.springframework.util.FileSystemUtils;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Starts that cannot be: one sentence each, exit 2, no list of calls. */
@Tag("large")
class StartsTest {
    @TempDir
    Path folder;

    private static Process begin(Path home, String... more) throws IOException {
        return begin(System.getProperty("java.class.path"), home, more);
    }

    private static Process begin(String classPath, Path home, String... more) throws IOException {
        List<String> command = new ArrayList<>(List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-XX:TieredStopAtLevel=1", "-cp", classPath, Server.class.getName(), "--granary.home=" + home));
        command.addAll(List.of(more));
        return new ProcessBuilder(command).redirectErrorStream(true).start();
    }

    private void refused(String because, Path home, String... more) throws Exception {
        Process process = begin(home, more);
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
        assertTrue(process.waitFor(120, TimeUnit.SECONDS));
        assertEquals(2, process.exitValue(), said);
        assertTrue(said.contains(because), said);
        assertEquals(1, said.lines().count(), said);
    }

    /** The program as it would be if nobody had written a demo: neither its classes, nor the stand-ins, nor what names them. */
    private String withoutTheDemo() throws IOException {
        Path own = folder.resolve("classes");
        List<String> out = new ArrayList<>();
        for (String entry : System.getProperty("java.class.path").split(File.pathSeparator)) {
            Path path = Path.of(entry);
            if (Files.exists(path.resolve("app/granary/server/Server.class"))) {
                FileSystemUtils.copyRecursively(path, own);
                FileSystemUtils.deleteRecursively(own.resolve("app/granary/demo"));
                FileSystemUtils.deleteRecursively(own.resolve("META-INF/spring"));
                FileSystemUtils.deleteRecursively(own.resolve("META-INF/services"));
                out.add(own.toString());
            } else if (!entry.contains("standins") && !entry.endsWith("test-classes")) {
                out.add(entry);
            }
        }
        return String.join(File.pathSeparator, out);
    }

    @Test
    void aStartThatCannotBeSaysWhyInASentence() throws Exception {
        Path home = folder.resolve("home");
        Process first = begin(withoutTheDemo(), home, "--server.port=0");
        try {
            var out = first.inputReader();
            String line = out.readLine();
            List<String> before = new ArrayList<>();
            while (line != null && !line.startsWith("Granary is at http://127.0.0.1:")) {
                before.add(line);
                line = out.readLine();
            }
            assertEquals(List.of(), before, "nothing else is said at a start");
            assertEquals("rwx------", PosixFilePermissions.toString(Files.getPosixFilePermissions(home)));
            for (String file : List.of("db/granary.mv.db", "db/keys", "db/journal-end.txt")) {
                assertEquals("rw-------", PosixFilePermissions.toString(Files.getPosixFilePermissions(home.resolve(file))), file);
            }
            refused("Granary runs on " + home + " already.", home, "--server.port=0");
        } finally {
            first.destroyForcibly().waitFor();
        }
        refused("is a real office's", home, "--granary.demo=true", "--server.port=0");
        Files.createDirectories(home.resolve("office"));
        refused("whose passwords everyone knows", home, "--server.port=0");
        Files.delete(home.resolve("office"));
        Files.write(home.resolve("db/granary.mv.db"), new byte[30_000]);
        refused("is damaged", home, "--server.port=0");
        refused("cannot use", Files.createFile(folder.resolve("file")), "--server.port=0");
        aDriveThatCannotBeWrittenIsToldInOneLine();
        try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            refused("Port " + taken.getLocalPort() + " is taken", folder.resolve("another"), "--server.port=" + taken.getLocalPort());
        }
    }

    private void aDriveThatCannotBeWrittenIsToldInOneLine() throws Exception {
        if (Tools.run(folder, "unshare -rm true 2> /dev/null && echo yes || echo no").strip().equals("yes")) {
            Files.createDirectories(folder.resolve("ro"));
            Process readOnly = new ProcessBuilder("unshare", "-rm", "bash", "-c", "mount -t tmpfs -o ro none ro; exec \"$@\"", "-",
                Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-cp",
                System.getProperty("java.class.path"), Server.class.getName(), "--granary.home=" + folder.resolve("ro/home"),
                "--server.port=0").directory(folder.toFile()).redirectErrorStream(true).start();
            String said = new String(readOnly.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
            assertEquals(2, readOnly.waitFor(), said);
            assertTrue(said.contains("Read-only file system") && said.lines().count() == 1, said);
        }
    }
}

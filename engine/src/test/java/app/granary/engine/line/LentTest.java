package app.granary.engine.line;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.LocalLender;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.RemoteFolders;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.RemoteFileSystem;
import app.granary.engine.remote.RemoteFiles;
import app.granary.engine.remote.ServedFolder;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Calls of a lent folder as text, of which every third answer is lost and the call told again: what is done is done once. */
@Tag("large")
class LentTest {
    @TempDir
    Path folder;

    private static final class Losing implements LineFiles.Carrier {
        private final Lent lent;
        private final AtomicInteger asked = new AtomicInteger();

        Losing(Lent lent) {
            this.lent = lent;
        }

        @Override
        public byte[] read(String path, long at, int most) throws IOException {
            return lent.files().read(path, at, most);
        }

        @Override
        public void write(String path, long at, byte[] bytes) throws IOException {
            lent.files().write(path, at, bytes);
            if (asked.incrementAndGet() % 3 == 0) {
                lent.files().write(path, at, bytes);
            }
        }

        @Override
        public Message ask(Message.Ask ask, Watch watch) throws IOException {
            Message.Ask told = (Message.Ask) LineJson.message(LineJson.text(ask));
            if (asked.incrementAndGet() % 3 == 0) {
                assertThrows(IOException.class, () -> lent.answer(told, message -> {
                    throw new IOException("the cable was pulled");
                }));
            }
            Message[] end = new Message[1];
            lent.answer(told, message -> {
                end[0] = LineJson.message(LineJson.text(message));
                if (end[0] instanceof Message.Advanced now) {
                    watch.advanced(now.progress());
                }
            });
            return end[0];
        }
    }

    @Test
    void everyCallIsDoneOnce() throws IOException {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), raw.resolve("own.img"));
        Path office = Files.createDirectories(folder.resolve("office/granary-images")).getParent();
        Path drive = Files.createDirectories(folder.resolve("TRIPOD"));
        try (Lent lent = new Lent(new LocalLender.Served(new ServedFolder(office, "granary-images", "own", Optional.of(() -> { })), ""),
            "the office")) {
            LineFiles files = new LineFiles(new Losing(lent));
            Path root = new RemoteFileSystem(files, "the office").root();
            Host machine = MachineHost.forAnOffice("TARN", raw, List.of(drive), Set.of(), id -> id.equals("remote/x")
                ? Optional.of(new RemoteFolders.Folder(root, root.resolve("granary-images"))) : Optional.empty(),
                folder.resolve("scratch"), Clock.systemUTC());
            String disk = machine.devices().computers().get(0).disks().stream().filter(each -> each.name().equals("own.img")).findFirst()
                .orElseThrow().id();
            assertTrue(machine.imaging().capture(disk, "remote/x", "own",
                new Storage(Codec.ZSTD, 1, OptionalLong.empty(), SurveyChoice.USED), Watch.NONE).check().ok());
            Tools.run(office.resolve("granary-images/own"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
            assertTrue(machine.imaging().copy(ImageAt.of("remote/x", "own"), machine.store().destinations().get(0).id(), Watch.NONE).ok());
            Tools.run(folder, "diff -r office/granary-images/own TRIPOD/granary-images/own");

            String mine = "granary-images/own/new";
            files.open(mine, RemoteFiles.Open.NEW);
            assertThrows(FileAlreadyExistsException.class, () -> files.open(mine, RemoteFiles.Open.NEW));
            assertThrows(NoSuchFileException.class, () -> files.open(mine + "er", RemoteFiles.Open.THERE));
            assertThrows(FaultException.class, () -> files.open("../out", RemoteFiles.Open.MADE));
            assertEquals(Optional.empty(), files.entry(mine + "er"));
            assertThrows(IOException.class, () -> lent.answer(new Message.Ask(java.util.UUID.randomUUID(), "host", "", "sweep()",
                List.of()),
                message -> {
                    throw LineFiles.thrown(message);
                }), "only the folder is lent");
        }
    }
}

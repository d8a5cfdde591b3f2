package app.granary.engine.line;


import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Host;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.RemoteFolders;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** A computer somewhere else with a disk, an empty disk and a drive, and the office's end of the line to it. */
abstract class OverTheLine {
    static final Storage USUAL = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);

    @TempDir
    Path folder;
    Host machine;
    LineHost office;
    Wire wire;
    String disk;
    String drive;

    @BeforeEach
    void aComputerSomewhereElse() throws IOException {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), raw.resolve("own.img"));
        Tools.run(raw, "truncate -s 200M spare.img");
        machine = MachineHost.forAnOffice("TARN", raw, List.of(Files.createDirectories(folder.resolve("TRIPOD"))), Set.of(),
            RemoteFolders.NONE,
            folder.resolve("scratch"), Clock.systemUTC());
        office = new LineHost("a1", "TARN");
        wire = new Wire(machine, office);
        for (int i = 0; i < 100 && !office.here(); i++) {
            Tools.run(folder, "sleep 0.05");
        }
        disk = machine.devices().computers().get(0).disks().stream().filter(each -> each.name().equals("own.img")).findFirst()
            .orElseThrow().id();
        drive = machine.store().destinations().stream().filter(each -> each.name().equals("TRIPOD")).findFirst().orElseThrow().id();
    }

    @AfterEach
    void hangUp() {
        wire.close();
    }
}

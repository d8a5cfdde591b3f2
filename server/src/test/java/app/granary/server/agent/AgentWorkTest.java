package app.granary.server.agent;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.standins.Cable;
import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Images are made, copied and restored by order. */
@Tag("large")
class AgentWorkTest extends AgentOffice {
    @Test
    void imagesAreMadeOfItsDisksHereAndThereAndWrittenBack() throws Exception {
        Path folder = Files.createDirectories(home().resolve("tripod"));
        Path disk = Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), folder.resolve("tripod-disk.img"));
        Path drive = Files.createDirectories(folder.resolve("TRIPOD-DRIVE"));
        Path empty = folder.resolve("empty.img");
        Tools.run(folder, "truncate -s 200M empty.img");
        long before = System.nanoTime();
        join("TRIPOD", "--disk", disk.toString(), "--disk", empty.toString(), "--drive", drive.toString());
        until("/api/v1/agents", all -> !all.isEmpty() && all.get(0).get("disks").asInt() > 0);
        assertTrue(System.nanoTime() - before < 30_000_000_000L);

        JsonNode there = named(until("/api/v1/destinations", all -> !named(all, "TRIPOD-DRIVE").isMissingNode()), "TRIPOD-DRIVE");
        assertEquals("in TRIPOD", there.get("placeText").asText());
        JsonNode computer = named(until("/api/v1/computers", all -> named(all.get("computers"), "TRIPOD").path("disks").size() == 2)
            .get("computers"), "TRIPOD");
        String id = StreamSupport.stream(computer.get("disks").spliterator(), false)
            .filter(each -> each.get("name").asText().equals("tripod-disk.img")).findFirst().orElseThrow().get("id").asText();

        JsonNode here = capture(id, "granary-folder", "TRIPOD-here");
        Tools.run(home().resolve("images/TRIPOD-here"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        JsonNode own = capture(id, there.get("id").asText(), "TRIPOD-there");
        Tools.run(drive.resolve("granary-images/TRIPOD-there"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        assertFalse(read("/api/v1/images/" + own.get("imageId").asText()).get("checks").isEmpty());

        String restore = restore(here.get("imageId").asText(), "empty.img");
        JsonNode done = restored(restore);
        assertEquals("done", done.get("state").asText(), done.toString());
        assertEquals(Tools.run(folder, "sfdisk -d tripod-disk.img | sed 's/.*img//' | grep start"),
            Tools.run(folder, "sfdisk -d empty.img | sed 's/.*img//' | grep start"));
        assertTrue(diskOf("TRIPOD").length() > 3);
    }

    /** The cable is pulled in the middle of each way of the bytes, and every one of them comes to its end. */
    @Test
    void whatIsUnderWayWaitsForTheCableAndGoesOn() throws Exception {
        Path folder = Files.createDirectories(home().resolve("fell"));
        Path drive = Files.createDirectories(folder.resolve("FELL-DRIVE"));
        Tools.run(folder, "mkdir in; head -c 24M /dev/urandom > in/noise; mkfs.ext4 -q -d in noise.img 64M; truncate -s 80M bare.img");
        try (Cable cable = new Cable(port.port(), 60_000_000)) {
            join("FELL", cable.port(), "--disk", folder.resolve("noise.img").toString(), "--disk", folder.resolve("bare.img").toString(),
                "--drive", drive.toString());
            String there = named(until("/api/v1/destinations", all -> !named(all, "FELL-DRIVE").isMissingNode()), "FELL-DRIVE").get("id")
                .asText();
            JsonNode computer = named(until("/api/v1/computers", all -> named(all.get("computers"), "FELL").path("disks").size() == 2)
                .get("computers"), "FELL");
            String disk = StreamSupport.stream(computer.get("disks").spliterator(), false)
                .filter(each -> each.get("name").asText().equals("noise.img")).findFirst().orElseThrow().get("id").asText();
            JsonNode here = order(disk, "granary-folder", "FELL-here");
            pulledFor(cable, 3_000);
            JsonNode made = ended(here);
            assertEquals("done", made.get("state").asText(), made.toString());
            Tools.run(home().resolve("images/FELL-here"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");

            JsonNode own = order(disk, there, "FELL-there");
            pulledFor(cable, 3_000);
            assertEquals("done", ended(own).get("state").asText());
            Tools.run(drive.resolve("granary-images/FELL-there"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");

            until("/api/v1/targets", all -> !named(all, "bare.img").isMissingNode());
            String restore = restore(made.get("imageId").asText(), "bare.img");
            pulledFor(cable, 3_000);
            JsonNode written = restored(restore);
            assertEquals("done", written.get("state").asText(), written.toString());
            sendAway();
            Tools.run(folder, "truncate -s 64M bare.img; e2fsck -fn bare.img; debugfs -R 'dump noise out' bare.img; cmp out in/noise");
        }
    }

    /** Once it has begun to move bytes. */
    private void pulledFor(Cable cable, long millis) throws Exception {
        until("/api/v1/runs/live", live -> !live.isEmpty());
        Thread.sleep(400);
        cable.pull();
        Thread.sleep(millis);
        cable.plug();
    }
}

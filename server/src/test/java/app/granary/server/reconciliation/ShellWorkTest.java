package app.granary.server.reconciliation;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.cli.Granary;
import app.granary.engine.media.Medium;
import app.granary.engine.shell.ShellNotes;
import app.granary.server.account.Accounts;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.security.test.context.support.WithMockUser;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;

/** What the command line did on a drive is in the office once the drive was looked at, once, and under nobody's account. */
@Tag("large")
@SpringBootTest(properties = {"granary.demo=false", "granary.device-types=none", "granary.promised-after=86400000",
    "granary.reconciled-after=P1D"})
@AutoConfigureMockMvc
@WithMockUser(username = "technician", roles = "TECHNICIAN")
class ShellWorkTest {
    private static final Path HOME = newHome();

    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private Reconciliation reconciliation;

    @DynamicPropertySource
    static void home(DynamicPropertyRegistry registry) {
        registry.add("granary.home", HOME::toString);
    }

    private static Path newHome() {
        try {
            Path home = Files.createTempDirectory(Path.of("target"), "shell").toAbsolutePath();
            Files.createDirectories(home.resolve("disks"));
            Files.move(Medium.GPT_EXT4_AND_FAT.make(home), home.resolve("disks/scarp.img"));
            Runtime.getRuntime()
                .addShutdownHook(new Thread(() -> org.springframework.util.FileSystemUtils.deleteRecursively(home.toFile())));
            return home;
        } catch (IOException failed) {
            throw new java.io.UncheckedIOException(failed);
        }
    }

    private JsonNode read(String path) throws Exception {
        return json.readTree(http.perform(get(path)).andExpect(status().isOk()).andReturn().getResponse().getContentAsString());
    }

    @BeforeEach
    void someoneMayLook(@Autowired Accounts accounts) throws IOException {
        if (accounts.firstWord().isPresent()) {
            accounts.createFirst("technician", "a few plain words", accounts.firstWord().get());
        }
    }

    @Test
    void anImageMadeByCommandIsTakenOnWithItsCheckItsCommentAndWhoMadeIt() throws Exception {
        for (int i = 0; i < 300 && read("/api/v1/computers").toString().indexOf("scarp.img") < 0; i++) {
            Thread.sleep(100);
        }
        Path images = HOME.resolve("images");
        assertEquals(0, Granary.run("capture", "--json", "--name", "SCARP-1", "--by", "technician", "--comment", "before the update",
            HOME.resolve("disks/scarp.img").toString(), images.toString()));
        assertEquals(0, Granary.run("verify", "--json", "--level", "sound", "--by", "ada", images.resolve("SCARP-1").toString()));
        Path notes = images.resolve(ShellNotes.FILE);
        Files.writeString(notes, "no note\n" + Files.readString(notes));
        reconciliation.lookWhereDue();
        reconciliation.lookWhereDue();

        JsonNode image = read("/api/v1/images").findParents("name").stream().filter(each -> each.get("name").asText().equals("SCARP-1"))
            .findFirst().orElseThrow(() -> new AssertionError("not taken on"));
        String page = read("/api/v1/images/" + image.path("copies").path(0).path("id").asText(image.path("id").asText())).toString();
        assertTrue(page.contains("before the update") && page.contains("technician, in a shell") && page.contains("ada, in a shell"), page);
        String journal = read("/api/v1/journal").toString();
        assertTrue(journal.contains("SCARP-1 was made in a shell on ") && journal.contains("SCARP-1 was checked in a shell on "), journal);
        assertEquals(1, journal.split("SCARP-1 was made in a shell", -1).length - 1, "once");
        assertEquals(0, read("/api/v1/reconciliation").size(), "nothing is strange on that drive any more");
        Files.writeString(notes, Files.readString(notes).replace("technician", "eve"));
        reconciliation.lookWhereDue();
        assertTrue(!read("/api/v1/journal").toString().contains("eve"), "it is looked at again only when it is due");
    }
}

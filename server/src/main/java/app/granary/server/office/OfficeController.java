package app.granary.server.office;

import app.granary.server.home.GranarySettings;
import app.granary.engine.host.Host;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What every screen shows at its edges. */
@RestController
@RequestMapping("/api/v1/office")
class OfficeController {
    private final Host host;
    private final GranarySettings settings;
    private final OfficeChoices choices;
    private final Clock clock;

    OfficeController(Host host, GranarySettings settings, OfficeChoices choices, Clock clock) {
        this.clock = clock;
        this.host = host;
        this.settings = settings;
        this.choices = choices;
    }

    /**
     * @param name       the office's name
     * @param simulation notice about made-up devices; empty when they are real
     * @param units      "decimal" or "binary", for who chose nothing
     * @param now        by the office's clock, which a browser's may differ from
     * @param diskFolder where raw disk image files are looked for; empty in the simulated office
     */
    record Office(String name, String simulation, String diskFolder, String units, Instant now) {
    }

    @GetMapping
    Office office() {
        Path disks = settings.home().resolve("disks");
        return new Office(choices.choices().name(), host.simulation(), settings.demo() ? "" : disks.toString(), choices.choices().units(),
            clock.instant());
    }
}

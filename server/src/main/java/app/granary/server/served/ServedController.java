package app.granary.server.served;

import app.granary.engine.restore.VirtualComputer;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Images as disks, and as computers. */
@RestController
@RequestMapping("/api/v1/served")
class ServedController {
    private final ServedImages served;

    ServedController(ServedImages served) {
        this.served = served;
    }

    /**
     * @param kind         "disk" or "computer"
     * @param address      of the disk, or of the computer's screen (VNC), on the machine Granary runs on
     * @param running      whether the computer is switched on; true for a disk
     * @param changedBytes what the computer wrote, kept apart from the image; 0 for a disk
     */
    record ServedLine(UUID id, UUID imageId, String image, String computer, String kind, String address, Instant since, String by,
        boolean running, long changedBytes) {
        static ServedLine of(ServedImages.Served one) throws IOException {
            return new ServedLine(one.id(), one.imageId(), one.image().name(), one.image().computer(), one.computer().isPresent()
                ? "computer" : "disk", one.address(), one.since(), one.by(), one.computer().map(VirtualComputer::running).orElse(true),
                one.computer().isPresent() ? one.computer().get().changedBytes() : 0);
        }
    }

    @GetMapping
    List<ServedLine> all() throws IOException {
        List<ServedLine> out = new ArrayList<>();
        for (ServedImages.Served each : served.all()) {
            out.add(ServedLine.of(each));
        }
        return out;
    }

    /** @param memoryMib of the computer, 512 to 16384; of no meaning for a disk */
    record Serve(@NotNull UUID imageId, @NotNull @Pattern(regexp = "disk|computer", message = "is \"disk\" or \"computer\"") String kind,
        @Min(value = 512, message = "is at least 512") @Max(value = 16384, message = "is at most 16384") int memoryMib) {
    }

    /** An encrypted image is opened first, where its files are looked at. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    ServedLine serve(@Valid @RequestBody Serve wanted, Principal who) throws IOException {
        return ServedLine.of(wanted.kind.equals("computer") ? served.asComputer(wanted.imageId, wanted.memoryMib, who.getName())
            : served.asDisk(wanted.imageId, who.getName()));
    }

    /** Its switch is pressed once; its system shuts it down, if it heeds that. */
    @PostMapping("/{id}/switch")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void press(@PathVariable UUID id) throws IOException {
        served.pressSwitch(id);
    }

    /** Ends it; what a computer wrote is thrown away. */
    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(@PathVariable UUID id, Principal who) throws IOException {
        served.end(id, who.getName());
    }
}

package app.granary.server.capture;

import app.granary.core.destination.Destination;
import app.granary.engine.host.HostUnfinished;
import app.granary.engine.host.ImageStore;
import app.granary.server.computer.DisksOnRecord;
import app.granary.server.queue.Passphrases;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Captures that did not come to their end: seen on the drives that are attached, carried on or discarded. */
@RestController
@RequestMapping("/api/v1/unfinished")
public class UnfinishedController {
    private final ImageStore store;
    private final DisksOnRecord disks;
    private final Captures captures;

    UnfinishedController(ImageStore store, DisksOnRecord disks, Captures captures) {
        this.store = store;
        this.disks = disks;
        this.captures = captures;
    }

    /**
     * @param disk      the computer and disk it was read of; the disk's model and serial where it is not in this office
     * @param why       what ended it, in a sentence; empty when that is not known
     * @param doneShare 0 to 1
     * @param carryable whether it can be carried on; else it can only be discarded, and nothing but its name is known
     */
    public record UnfinishedLine(String destinationId, String destination, String name, String disk, boolean diskKnown, String begunAt,
        long storedBytes, double doneShare, boolean encrypted, String why, boolean carryable) {
    }

    /** Those that are under way right now are not among them. */
    @GetMapping
    public List<UnfinishedLine> all() throws IOException {
        List<UnfinishedLine> out = new ArrayList<>();
        List<DisksOnRecord.DiskOnRecord> known = disks.all();
        for (Destination each : store.destinations()) {
            if (each.attached()) {
                for (HostUnfinished left : store.unfinished(each.id())) {
                    if (captures.isIdle(each.id(), left.name())) {
                        var disk = known.stream().filter(d -> d.identity().same(left.disk())).findFirst();
                        out.add(
                            new UnfinishedLine(each.id(), each.name(), left.name(),
                                disk.map(d -> d.computer() + " " + d.name())
                                    .orElse((left.disk().model() + " " + left.disk().serial()).strip()),
                                disk.isPresent(),
                                left.begunAt(), left.storedBytes(), left.doneShare(), left.encrypted(),
                                captures.whyEnded(each.id(), left.name()), left.carryable()));
                    }
                }
            }
        }
        return out;
    }

    /** @param id of the run */
    record Begun(UUID id) {
    }

    record CarryOn(@Schema(types = {
        "string", "null"}) @Size(max = 1000) String passphrase){
        @Override
        public String toString() {
            return "carry on";
        }
    }

    @PostMapping("/{destinationId}/{name}/carry-on")
    @ResponseStatus(HttpStatus.CREATED)
    Begun carryOn(@PathVariable String destinationId, @PathVariable String name, @Valid @RequestBody CarryOn how, Authentication who)
        throws IOException {
        return new Begun(captures.beginCarryOn(destinationId, name, Passphrases.told(how.passphrase()), who.getName()).id());
    }

    @DeleteMapping("/{destinationId}/{name}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void discard(@PathVariable String destinationId, @PathVariable String name, Authentication who) throws IOException {
        captures.discard(destinationId, name, who.getName());
    }
}

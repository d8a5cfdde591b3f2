package app.granary.server.computer;

import app.granary.core.disk.SeenDisk;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.server.change.Changes;
import java.io.IOException;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import jakarta.annotation.PreDestroy;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Keeps the inventory in step with the disks at hand: reads them when Granary starts, when one comes or goes, and when a person asks. */
@Component
class AttachedDisks {
    private static final Logger LOG = LoggerFactory.getLogger(AttachedDisks.class);
    private static final long LOOK_EVERY_MILLIS = 5_000;
    private static final long PATIENCE_SECONDS = 3;

    private final Host machine;
    private final DisksAtHand atHand;
    private final DiskTies ties;
    private final Inventory inventory;
    private final ApplicationEventPublisher publisher;
    private final Changes changes;
    private final ExecutorService reader = Executors.newSingleThreadExecutor(work -> {
        Thread thread = new Thread(work, "granary-inventory");
        thread.setDaemon(true);
        return thread;
    });
    private volatile Set<String> attached = Set.of();
    private volatile List<DisksAtHand.Untold> untold = List.of();
    private volatile boolean reading;
    /** All disks that answered at the last look. */
    private List<SeenDisk> seen = List.of();

    AttachedDisks(@Qualifier("machine") Host machine, DisksAtHand atHand, DiskTies ties, Inventory inventory,
        ApplicationEventPublisher publisher, Changes changes) {
        this.publisher = publisher;
        this.changes = changes;
        this.ties = ties;
        this.machine = machine;
        this.atHand = atHand;
        this.inventory = inventory;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        if (attached.isEmpty()) {
            readAgain();
        }
    }

    /** Reads all disks at hand in the background. */
    void readAgain() {
        reading = true;
        reader.execute(this::readAll);
    }

    /** Reads them before it returns. */
    void readNow() {
        reading = true;
        readAll();
    }

    boolean reading() {
        return reading;
    }

    /** Identities of the disks at hand. */
    Set<String> ids() {
        return attached;
    }

    boolean isAttached(String diskId) {
        return attached.contains(diskId);
    }

    /** Behind what is being read now, so that nothing is missed. */
    @EventListener
    void changed(DisksChanged told) {
        reader.execute(() -> {
            try {
                look();
            } catch (IOException | RuntimeException failed) {
                LOG.warn("the disks at hand could not be told", failed);
            }
        });
    }

    @Scheduled(fixedDelay = LOOK_EVERY_MILLIS, initialDelay = LOOK_EVERY_MILLIS)
    void look() throws IOException {
        DisksAtHand.Now now = atHand.look();
        if (!reading && (!now.ids().equals(attached) || !now.untold().equals(untold))) {
            readAgain();
        }
        List<SeenDisk> answer = machine.devices().seen();
        if (!answer.equals(seen)) {
            seen = answer;
            changes.note(Changes.Noun.TARGETS);
        }
    }

    /** Disks at hand that cannot be told; a person says what they are. */
    List<DisksAtHand.Untold> untold() {
        return untold;
    }

    private void readAll() {
        try {
            DisksAtHand.Now now = atHand.look();
            untold = now.untold();
            ties.keepOnly(now.attachments());
            Set<String> known = attached;
            // whoever has just come is read first: somebody stands before it and waits
            List<HostComputer> computers = now.computers().stream().sorted(Comparator.comparing(computer -> computer.disks().stream()
                .allMatch(disk -> known.contains(disk.id())))).toList();
            Set<String> seen = new HashSet<>();
            for (HostComputer computer : computers) {
                int place = 1;
                for (HostDisk disk : computer.disks()) {
                    if (reader.isShutdown()) {
                        return;
                    }
                    inventory.read(computer, disk, place++, survey(now.hostIds().get(disk.id()).id()));
                    seen.add(disk.id());
                    attached = both(known, seen, now.ids());
                }
                if (computer.disks().isEmpty()) {
                    inventory.meet(computer);
                }
            }
            attached = Set.copyOf(seen);
            publisher.publishEvent(new DisksRead());
            changes.note(Changes.Noun.COMPUTERS);
        } catch (IOException | RuntimeException failed) {
            if (reader.isShutdown()) {
                LOG.debug("Granary ended while the disks at hand were read", failed);
            } else {
                LOG.error("the disks at hand could not be read", failed);
            }
        } finally {
            reading = false;
        }
    }

    /** What was here before and is still, and what has been read since. */
    private static Set<String> both(Set<String> before, Set<String> read, Set<String> here) {
        Set<String> out = new HashSet<>(before);
        out.retainAll(here);
        out.addAll(read);
        return Set.copyOf(out);
    }

    /** What was found, or the sentence of why nothing can be. */
    record Found(Optional<DiskSurvey> survey, String refusal) {
    }

    /** @param hostId what the host calls it */
    Found survey(String hostId) throws IOException {
        try {
            return new Found(Optional.of(machine.devices().survey(hostId, SurveyChoice.USED)), "");
        } catch (java.nio.channels.ClosedByInterruptException | java.io.InterruptedIOException stopped) {
            throw stopped; // Granary ends; that is nothing to say of the disk
        } catch (IOException refused) {
            return new Found(Optional.empty(), String.valueOf(refused.getMessage()));
        }
    }

    /** What is being written down is let to its end; a disk that does not answer is not waited for. */
    @PreDestroy
    void stop() throws InterruptedException {
        reader.shutdown();
        if (!reader.awaitTermination(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
            reader.shutdownNow();
        }
    }
}

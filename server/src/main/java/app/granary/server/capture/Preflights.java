package app.granary.server.capture;

import app.granary.core.destination.Destination;
import app.granary.core.destination.RuleOutcome;
import app.granary.core.preflight.Preflight;
import app.granary.core.target.OverwriteRules;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.host.Host;
import app.granary.engine.host.Storage;
import app.granary.engine.host.Devices;
import app.granary.server.estimate.Prospect;
import app.granary.server.estimate.Prospects;
import app.granary.server.image.RoomMaker;
import app.granary.server.journal.Journal;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** What is looked at before a capture: power, clock, whether its disk is idle, and the destination's rules. */
@Component
public class Preflights {
    private final Devices devices;
    private final Host host;
    private final Prospects prospects;
    private final RoomMaker roomMaker;
    private final Journal journal;
    private final Clock clock;

    public Preflights(Devices devices, Host host, Prospects prospects, RoomMaker roomMaker, Journal journal, Clock clock) {
        this.devices = devices;
        this.host = host;
        this.prospects = prospects;
        this.roomMaker = roomMaker;
        this.journal = journal;
        this.clock = clock;
    }

    /** When the preflight is made. */
    enum Moment {
        /** Asked for; it may still wait long, be stopped or be refused, so nothing is given up for it. */
        ASKED,
        /** It begins now. */
        STARTING
    }

    /**
     * Everything is looked at when it is asked for and once more at the moment of starting, and refused with the reason. Only what starts,
     * and is short of nothing but room, has the trash emptied for it, and only by what it is short of: what lies there cannot be had back.
     */
    Prospect look(String diskId, String destinationId, Storage storage, Moment moment) throws IOException {
        Prospect prospect = weigh(diskId, storage);
        requireMachine(prospect.to(destinationId).destination(), prospect);
        if (!prospect.to(destinationId).rollBack()) {
            requireIdle(prospect); // of a disk that is written to, each partition that is read is held when it starts
        }
        List<RuleOutcome> broken = broken(prospect, destinationId);
        if (broken.size() == 1 && broken.get(0).rule().equals("room")) {
            long shortBytes = broken.get(0).askedBytes() - broken.get(0).allowedBytes();
            if (moment == Moment.ASKED && roomMaker.trashBytes(destinationId) >= shortBytes) {
                return prospect;
            }
            if (moment == Moment.STARTING && roomMaker.makeRoom(destinationId, shortBytes) > 0) {
                prospect = weigh(diskId, storage);
                broken = broken(prospect, destinationId);
            }
        }
        if (!broken.isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "unfit-" + broken.get(0).rule(), "destinationId", broken.get(0).sentence());
        }
        return prospect;
    }

    /**
     * Room and rules as they are now, and the size by a sample of the last minute: who asks has just seen it on the page, and a disk at
     * work is refused. A passphrase is not kept with a sample.
     */
    private Prospect weigh(String diskId, Storage storage) throws IOException {
        return prospects.of(diskId, storage.with(Passphrase.NONE), !storage.passphrase().isNone());
    }

    private static List<RuleOutcome> broken(Prospect prospect, String destinationId) {
        return prospect.to(destinationId).rules().stream().filter(rule -> !rule.holds()).toList();
    }

    private void requireMachine(Destination destination, Prospect prospect) throws IOException {
        Optional<String> why = Preflight.power(host.power(), prospect.timeTo(destination).highSeconds())
            .or(() -> journal.newest().flatMap(newest -> Preflight.clock(clock.instant(), newest, clock.getZone())));
        if (why.isPresent()) {
            throw new Refused(HttpStatus.CONFLICT, "not-ready", "", why.get());
        }
    }

    /** Told when it is asked for, and not an hour later when its turn has come. */
    private void requireIdle(Prospect prospect) throws IOException {
        String use = devices.inUse(prospect.source().disk().id());
        if (!use.isEmpty()) {
            throw new Refused(HttpStatus.CONFLICT, "in-use", "diskId", OverwriteRules.inUse(prospect.source().label(), use));
        }
    }
}

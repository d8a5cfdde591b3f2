package app.granary.demo;

import app.granary.engine.host.HostComputer;
import app.granary.engine.host.Host;
import app.granary.server.account.Accounts;
import app.granary.server.agent.Invitations;
import app.granary.server.computer.DisksOnRecord;
import app.granary.standins.Laptops;
import app.granary.standins.SimulatedOffice;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** The field laptops of the made-up office join it by their agents, before its address is told. */
@Component
@ConditionalOnProperty("granary.laptops")
class DemoLaptops {
    private static final Logger LOG = LoggerFactory.getLogger(DemoLaptops.class);
    private static final int PATIENCE = 150;
    private static final long LOOK_MILLIS = 100;

    private final SimulatedOffice office;
    private final Host machine;
    private final DisksOnRecord disks;
    private final Invitations invitations;
    private Optional<Laptops> laptops = Optional.empty();

    DemoLaptops(SimulatedOffice office, @Qualifier("machine") Host machine, DisksOnRecord disks, Invitations invitations) {
        this.office = office;
        this.machine = machine;
        this.disks = disks;
        this.invitations = invitations;
    }

    /** What they are is on record before they go: once, at the first start. */
    @EventListener(ApplicationReadyEvent.class)
    @Order(-5)
    void start() throws IOException, InterruptedException {
        if (disks.all().isEmpty()) {
            disks.readAttached();
        }
        Laptops away = office.sendLaptopsAway();
        laptops = Optional.of(away);
        away.start(this::invitation);
        for (int i = 0; !allHere() && i < PATIENCE; i++) {
            Thread.sleep(LOOK_MILLIS);
        }
        if (!allHere()) {
            LOG.warn("the laptops have not joined yet");
        }
    }

    private Laptops.Invitation invitation() throws IOException {
        Invitations.Invitation made = invitations.make(Accounts.DEMO_NAME);
        return new Laptops.Invitation(made.address(), made.code());
    }

    private boolean allHere() throws IOException {
        List<String> here = machine.devices().computers().stream().map(HostComputer::name).toList();
        return here.containsAll(Laptops.NAMES);
    }

    @PreDestroy
    void stop() {
        laptops.ifPresent(Laptops::close);
    }
}

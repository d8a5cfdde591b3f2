package app.granary.server.computer;

import app.granary.core.plan.Afterwards;
import app.granary.core.preflight.Power;
import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Insides;
import app.granary.engine.host.Overwriting;
import java.io.IOException;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Primary;
import org.springframework.stereotype.Component;

/**
 * The machine's disks under the ids the office's records have for them. Every disk is looked up at the moment it is used, so that one that
 * cannot be told from another is neither read nor written under its name.
 */
@Component
@Primary
class NamedHost implements Host {
    private final Host machine;
    private final DisksAtHand disks;

    NamedHost(@Qualifier("machine") Host machine, DisksAtHand disks) {
        this.machine = machine;
        this.disks = disks;
    }

    /** Its ports, for those who need no more than one of them. */
    @Configuration
    static class Ports {
        @Bean
        Devices devices(Host host) {
            return host.devices();
        }

        @Bean
        ImageStore store(Host host) {
            return host.store();
        }

        @Bean
        Imaging imaging(Host host) {
            return host.imaging();
        }

        @Bean
        Insides insides(Host host) {
            return host.insides();
        }

        @Bean
        Overwriting overwriting(Host host) {
            return host.overwriting();
        }
    }

    @Override
    public String name() {
        return machine.name();
    }

    @Override
    public String simulation() {
        return machine.simulation();
    }

    @Override
    public Devices devices() {
        return new NamedDevices(machine.devices(), disks);
    }

    @Override
    public ImageStore store() {
        return machine.store();
    }

    @Override
    public Imaging imaging() {
        return new NamedImaging(machine.imaging(), disks);
    }

    @Override
    public Overwriting overwriting() {
        return new NamedOverwriting(machine.overwriting(), disks);
    }

    @Override
    public Insides insides() {
        return machine.insides();
    }

    @Override
    public Power power() throws IOException {
        return machine.power();
    }

    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        machine.afterwards(diskId.isEmpty() ? "" : disks.hostId(diskId), action);
    }

    @Override
    public String machine(String diskId) throws IOException {
        return machine.machine(disks.hostId(diskId));
    }

    @Override
    public void sweep() throws IOException {
        machine.sweep();
    }
}

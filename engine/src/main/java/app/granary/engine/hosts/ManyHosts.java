package app.granary.engine.hosts;

import app.granary.core.plan.Afterwards;
import app.granary.core.preflight.Power;
import app.granary.engine.host.Devices;
import app.granary.engine.host.Host;
import app.granary.engine.host.ImageStore;
import app.granary.engine.host.Insides;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.Lender;
import app.granary.engine.host.Overwriting;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** The office's own machine and all that joined, as one host. */
public final class ManyHosts implements Host {
    private final Host home;
    private final Whereabouts whereabouts;
    private final Devices devices;
    private final ImageStore store;
    private final Imaging imaging;
    private final Overwriting overwriting;
    private final Insides insides;

    /** @param members those that are here now; asked at each call */
    public ManyHosts(Host home, Supplier<List<Member>> members, Serving serving) {
        this.home = home;
        this.whereabouts = new Whereabouts(home, members);
        Reach reach = new Reach(home, serving);
        this.devices = new ManyDevices(whereabouts);
        this.store = new ManyStore(whereabouts);
        this.imaging = new ManyImaging(whereabouts, reach);
        this.overwriting = new ManyOverwriting(whereabouts, reach);
        this.insides = new ManyInsides(whereabouts);
    }

    @Override
    public String name() {
        return home.name();
    }

    @Override
    public String simulation() {
        return home.simulation();
    }

    @Override
    public Devices devices() {
        return devices;
    }

    @Override
    public ImageStore store() {
        return store;
    }

    @Override
    public Imaging imaging() {
        return imaging;
    }

    @Override
    public Overwriting overwriting() {
        return overwriting;
    }

    @Override
    public Insides insides() {
        return insides;
    }

    @Override
    public Optional<Lender> lender() {
        return home.lender();
    }

    @Override
    public Power power() throws IOException {
        return home.power();
    }

    @Override
    public void afterwards(String diskId, Afterwards action) throws IOException {
        (diskId.isEmpty() ? whereabouts.own() : whereabouts.ofDisk(diskId)).host().afterwards(diskId, action);
    }

    @Override
    public String machine(String diskId) throws IOException {
        return whereabouts.ofDisk(diskId).host().machine(diskId);
    }

    @Override
    public void sweep() throws IOException {
        home.sweep();
    }
}

package app.granary.engine.hosts;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.machine.Machine;
import app.granary.engine.host.Host;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * Which machine has what. Something that two of them tell of is at neither: one of the two is not what it says, and nothing is read from or
 * written to it until a person has looked.
 */
final class Whereabouts {
    private final Host home;
    private final Supplier<List<Member>> members;

    Whereabouts(Host home, Supplier<List<Member>> members) {
        this.home = home;
        this.members = members;
    }

    /** A machine: the office's own where there is no member. */
    record Holder(Host host, Optional<Member> member) {
        boolean is(Holder other) {
            return host == other.host;
        }

        /** As devices in it say where they are. */
        Machine place() {
            return member.map(Member::machine).orElse(Machine.OFFICE);
        }

        boolean isHome() {
            return member.isEmpty();
        }
    }

    /** Whether a host has something. */
    private interface Having {
        boolean has(Host host) throws IOException;
    }

    Holder own() {
        return new Holder(home, Optional.empty());
    }

    /** The office's own first. */
    List<Holder> all() {
        List<Holder> out = new ArrayList<>(List.of(own()));
        members.get().forEach(each -> out.add(new Holder(each.host(), Optional.of(each))));
        return out;
    }

    Holder ofDisk(String id) throws IOException {
        return of("disk", host -> host.devices().computers().stream().flatMap(each -> each.disks().stream())
            .anyMatch(each -> each.id().equals(id)));
    }

    Holder ofDestination(String id) throws IOException {
        return of("drive", host -> host.store().destinations().stream().anyMatch(each -> each.id().equals(id) && each.attached()));
    }

    Holder ofTarget(String id) throws IOException {
        return of("disk", host -> host.overwriting().targets().stream().anyMatch(each -> each.id().equals(id)));
    }

    /** What nobody has is refused by the office's own machine, with its sentence. */
    private Holder of(String what, Having having) throws IOException {
        List<Holder> owners = new ArrayList<>();
        List<Holder> all = all();
        for (Holder each : all.subList(1, all.size())) {
            if (having.has(each.host)) {
                owners.add(each);
            }
        }
        if (owners.isEmpty()) {
            return all.get(0);
        }
        if (having.has(home)) {
            owners.add(0, all.get(0));
        }
        if (owners.size() > 1) {
            String names = owners.stream().map(each -> each.member.map(Member::name).orElse("this machine")).reduce((a, b) -> a + " and "
                + b)
                .orElseThrow();
            throw Fault.of(Fault.Kind.FORBIDDEN, what, names + " both say they have this " + what
                + ". Nothing is done with it until only one of them does. Look which of them it is in, and take it, or a copy of it, "
                + "out of the other.").asException();
        }
        return owners.get(0);
    }

    /** @throws FaultException always */
    static IOException apart(String sentence) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "machine", sentence).asException();
    }

    static String name(Holder machine) {
        return machine.place().name();
    }
}

package app.granary.server.target;

import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.core.target.OverwriteRules;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.ImageStore;
import app.granary.server.image.Images;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Service;

/** Disks that could be overwritten, with what the office knows of them. */
@Service
public class Targets {
    private final ImageStore store;
    private final Overwriting overwriting;
    private final Images images;
    private final Replugs replugs;
    private final TypedThere typedThere;
    private final List<TargetGuard> guards;

    Targets(ImageStore store, Overwriting overwriting, Images images, Replugs replugs, TypedThere typedThere, List<TargetGuard> guards) {
        this.typedThere = typedThere;
        this.replugs = replugs;
        this.guards = List.copyOf(guards);
        this.store = store;
        this.overwriting = overwriting;
        this.images = images;
    }

    /** In order of name; with the images the catalogue has on them. Nothing on them is read. */
    public List<TargetDisk> all() throws IOException {
        Map<String, List<Images.Standings>> lying = images.standings().stream().filter(each -> !each.paper())
            .collect(Collectors.groupingBy(Images.Standings::destinationId));
        List<Destination> drives = store.destinations();
        List<TargetDisk> out = new ArrayList<>();
        for (TargetDisk each : overwriting.targets()) {
            Set<String> names = new TreeSet<>(each.images());
            drives.stream().filter(drive -> liesOn(drive, each))
                .forEach(drive -> lying.getOrDefault(drive.id(), List.of()).forEach(image -> names.add(image.name())));
            out.add(each.holding(List.copyOf(names)));
        }
        return out;
    }

    public TargetDisk one(String id) throws IOException {
        return all().stream().filter(each -> each.id().equals(id)).findFirst().orElseThrow(
            () -> new Refused(HttpStatus.NOT_FOUND, "not-found", "targetId", "That disk is not attached. Attach it and try again."));
    }

    /** With what is on it, which is read now. */
    public TargetLook look(String id) throws IOException {
        TargetDisk known = one(id);
        return new TargetLook(known, overwriting.target(id).holds());
    }

    /** Serials of the disk a destination lies on. */
    public Set<String> serialsOf(String destinationId) throws IOException {
        return store.destinations().stream().filter(each -> each.id().equals(destinationId)).findFirst().map(Destination::diskSerials)
            .orElse(Set.of());
    }

    /**
     * Those of its images that lie nowhere else: by the image itself, whatever others are called. One that Granary does not know may be the
     * only one.
     */
    private List<String> onlyCopies(TargetDisk target) {
        Set<String> drives = drivesOn(target);
        List<Images.Standings> all = images.standings().stream().filter(each -> !each.paper()).toList();
        Map<String, UUID> here = all.stream().filter(each -> drives.contains(each.destinationId()))
            .collect(Collectors.toMap(Images.Standings::name, Images.Standings::imageId, (one, other) -> one));
        Set<UUID> elsewhere = all.stream().filter(each -> !drives.contains(each.destinationId()) && !each.standing().damaged())
            .map(Images.Standings::imageId).collect(Collectors.toSet());
        return target.images().stream().filter(name -> !here.containsKey(name) || !elsewhere.contains(here.get(name))).toList();
    }

    private Set<String> drivesOn(TargetDisk target) {
        try {
            return store.destinations().stream().filter(drive -> liesOn(drive, target)).map(Destination::id).collect(Collectors.toSet());
        } catch (IOException cannotTell) {
            return Set.of();
        }
    }

    private static boolean liesOn(Destination drive, TargetDisk target) {
        return drive.liesOn(target.identity().serial());
    }

    /** Why it must not be overwritten; empty when it may be, once it is confirmed. */
    public List<String> refusals(TargetDisk target, Set<String> sourceSerials) {
        return refusals(target, sourceSerials, Optional.empty());
    }

    /** @param replaced what the disk is kept as and is made anew, such as a spare that is refreshed; empty for none */
    public List<String> refusals(TargetDisk target, Set<String> sourceSerials, Optional<UUID> replaced) {
        return overwriting(target, sourceSerials, replaced).refusals();
    }

    private OverwriteRules overwriting(TargetDisk target, Set<String> sourceSerials, Optional<UUID> replaced) {
        String guarded = guards.stream().flatMap(guard -> guard.keptAs(target.identity(), replaced).stream()).findFirst().orElse("");
        return new OverwriteRules(target, replugs.told(target.id()), sourceSerials, onlyCopies(target), guarded);
    }

    /** What was typed at the console of its computer, and may stand for what is typed here. */
    Optional<TypedThere.Typed> typedThere(TargetDisk target) {
        return typedThere.find(target);
    }

    /** Whether pulling it and plugging it in again would tell which disk it is. */
    boolean untold(TargetDisk target) {
        return OverwriteRules.untold(target) && !replugs.told(target.id());
    }

    /**
     * Asked once more when the work begins: it was asked when a person confirmed it, and that may be an hour ago.
     *
     * @throws app.granary.core.fault.FaultException with the first reason that speaks against it now
     */
    public void requireStillFree(Overwriting.Confirmed confirmed, Set<String> sourceSerials) throws IOException {
        requireStillFree(confirmed, sourceSerials, Optional.empty());
    }

    /** The same, of one that is kept as something that is made anew. */
    public void requireStillFree(Overwriting.Confirmed confirmed, Set<String> sourceSerials, Optional<UUID> replaced) throws IOException {
        TargetDisk target = all().stream().filter(each -> each.id().equals(confirmed.targetId())).findFirst()
            .orElseThrow(() -> Fault.of(Fault.Kind.NOT_RECOGNISED,
                confirmed.targetId(), OverwriteRules.gone(confirmed.identity())).asException());
        List<String> refusals = refusals(target, sourceSerials, replaced);
        if (!refusals.isEmpty()) {
            throw Fault.of(Fault.Kind.FORBIDDEN, target.name(), refusals.get(0) + " Nothing was written.").asException();
        }
    }

    /**
     * The target as it is confirmed now.
     *
     * @param typed what a person typed: the last four characters of its serial; an empty string where it was typed at the console of the
     *              disk's computer
     * @throws Refused with the first reason against it
     */
    public Overwriting.Confirmed confirmed(String targetId, String typed, Set<String> sourceSerials) throws IOException {
        return confirmed(targetId, typed, sourceSerials, Optional.empty());
    }

    /** The same, of one that is kept as something that is made anew. */
    public Overwriting.Confirmed confirmed(String targetId, String typed, Set<String> sourceSerials, Optional<UUID> replaced)
        throws IOException {
        TargetLook look = look(targetId);
        TargetDisk target = look.disk();
        String told = typed.isBlank() ? typedThere.find(target).map(TypedThere.Typed::typed).orElse("") : typed;
        List<String> refusals = overwriting(target, sourceSerials, replaced).refusals(told);
        if (!refusals.isEmpty()) {
            boolean onlyTyping = refusals(target, sourceSerials, replaced).isEmpty();
            throw new Refused(HttpStatus.CONFLICT, onlyTyping ? "not-confirmed" : "unfit-target", onlyTyping ? "confirmation" : "targetId",
                refusals.get(0));
        }
        typedThere.forget(target);
        return Overwriting.Confirmed.of(look);
    }
}

package app.granary.server.destination;

import app.granary.core.destination.Destination;
import app.granary.core.destination.PlaceKind;
import app.granary.server.problem.Refused;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.TreeMap;
import java.util.Map;
import org.springframework.http.HttpStatus;

/**
 * What a person says of a destination.
 *
 * @param placeKind      a word of {@link PlaceKind}
 * @param place          where exactly, or an empty string
 * @param rotation       the group it is swapped within, or an empty string
 * @param ejectNote      how it is to be taken off: write cache, safe eject
 * @param healthNote     what is known of its health
 * @param sharedLink     a name that destinations on one shared link have in common, or an empty string
 * @param leavesBuilding whether it is ever taken out of the building
 * @param onlyFor        names of the computers that may use it; empty for all
 */
record DestinationForm(@NotNull String placeKind, @NotNull @Size(max = 200, message = "may have at most 200 characters") String place,
    @NotNull @Size(max = 60, message = "may have at most 60 characters") String rotation,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String ejectNote,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String healthNote,
    @NotNull @Size(max = 60, message = "may have at most 60 characters") String sharedLink, boolean leavesBuilding,
    @NotNull @Size(max = 30, message = "may name at most 30 computers") List<@NotNull @Size(max = 100,
        message = "may have at most 100 characters each") String> onlyFor) {
    static DestinationForm of(KnownDestination known, ComputerNames names) {
        Destination.Notes notes = known.notes(names);
        return new DestinationForm(known.placeKind().word(), known.placeKind() == PlaceKind.UNKNOWN ? "" : known.place(), known.rotation(),
            known.ejectNote(), notes.health(), notes.sharedLink(),
            notes.leavesBuilding(), notes.onlyFor().values().stream().sorted().toList());
    }

    /** @throws Refused when a computer of those is not on record */
    Destination.Notes notes(ComputerNames names) {
        Map<String, String> only = new TreeMap<>();
        onlyFor.stream().map(String::strip).filter(name -> !name.isEmpty())
            .forEach(name -> only.put(names.id(name).orElseThrow(() -> new Refused(HttpStatus.UNPROCESSABLE_ENTITY, "unknown-computer",
                "onlyFor", "There is no computer named " + name + ". Write the names as the Computers page has them.")), name));
        return new Destination.Notes(leavesBuilding, only, healthNote.strip(), sharedLink.strip());
    }

    PlaceKind kind() {
        return PlaceKind.parse(placeKind).orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "placeKind",
            "\"" + placeKind + "\" is no kind of place. Choose one from the list."));
    }
}

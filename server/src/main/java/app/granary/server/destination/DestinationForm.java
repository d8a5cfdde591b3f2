package app.granary.server.destination;

import app.granary.core.destination.PlaceKind;
import app.granary.server.problem.Refused;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import org.springframework.http.HttpStatus;

/**
 * What a person says of a destination.
 *
 * @param placeKind  a word of {@link PlaceKind}
 * @param place      where exactly, or an empty string
 * @param rotation   the group it is swapped within, or an empty string
 * @param ejectNote  how it is to be taken off: write cache, safe eject
 * @param healthNote what is known of its health
 */
record DestinationForm(@NotNull String placeKind, @NotNull @Size(max = 200, message = "may have at most 200 characters") String place,
                       @NotNull @Size(max = 60, message = "may have at most 60 characters") String rotation,
                       @NotNull @Size(max = 300, message = "may have at most 300 characters") String ejectNote,
                       @NotNull @Size(max = 300, message = "may have at most 300 characters") String healthNote) {
    PlaceKind kind() {
        return PlaceKind.parse(placeKind).orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "placeKind", "\"" + placeKind + "\" is no kind of place. Choose one from the list."));
    }
}

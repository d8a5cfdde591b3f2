package app.granary.server.computer;

import app.granary.core.inventory.ComputerFacts;
import app.granary.core.inventory.Encryption;
import app.granary.core.inventory.Firmware;
import app.granary.core.inventory.KeyPlace;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.Optional;
import org.springframework.http.HttpStatus;

/**
 * What a person says of a computer.
 *
 * @param firmware   {@code "uefi"}, {@code "bios"} or {@code "unknown"}
 * @param secureBoot null when not known
 * @param encryption {@code "none"}, {@code "volumes"} or {@code "unknown"}
 * @param keyPlace   a word of {@link KeyPlace}
 * @param keyNote    more on the place; never the key itself
 * @param checks     what is looked at when it is back, besides what is looked at on every computer; a line each
 */
record ComputerForm(
    @NotNull @Size(max = 100, message = "may have at most 100 characters") @Pattern(regexp = ".*\\S.*",
        message = "needs a name") String name,
    @NotNull @Size(max = 200, message = "may have at most 200 characters") String role,
    @NotNull @Size(max = 200, message = "may have at most 200 characters") String owner,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String maker,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String model,
    @NotNull String firmware, @NotNull @Size(max = 100, message = "may have at most 100 characters") String bootKey,
    @Schema(types = {
        "boolean", "null"}) Boolean secureBoot,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String operatingSystem,
    @NotNull String encryption, @NotNull String keyPlace,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String keyNote,
    @NotNull @Size(max = 2000, message = "may have at most 2000 characters") String note,
    @NotNull @Size(max = 2000, message = "may have at most 2000 characters") String checks){

    static ComputerForm of(Computer computer) {
        ComputerFacts facts = computer.facts();
        return new ComputerForm(computer.name(), computer.role(), computer.owner(), facts.maker(), facts.model(), facts.firmware().word(),
            facts.bootKey(),
            facts.secureBoot().orElse(null), facts.operatingSystem(), facts.encryption().word(), facts.keyPlace().word(), facts.keyNote(),
            computer.note(), computer.checks());
    }

    ComputerFacts facts() {
        return new ComputerFacts(maker.strip(), model.strip(), Firmware.parse(firmware), bootKey.strip(), Optional.ofNullable(secureBoot),
            operatingSystem.strip(),
            Encryption.parse(encryption).orElseThrow(() -> unknown("encryption", encryption)),
            KeyPlace.parse(keyPlace).orElseThrow(() -> unknown("keyPlace", keyPlace)), keyNote.strip());
    }

    private static Refused unknown(String field, String word) {
        return new Refused(HttpStatus.BAD_REQUEST, "bad-choice", field,
            "\"" + word + "\" is none of the choices for " + field + ". Choose one from the list.");
    }
}

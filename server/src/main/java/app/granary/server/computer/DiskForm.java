package app.granary.server.computer;

import app.granary.core.disk.DiskIdentity;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;

/**
 * A disk as a person reads it off its label.
 *
 * @param sizeBytes decimal, as makers sell them: 1 TB is 1 000 000 000 000; at most 1 EB
 * @param usedBytes what is on it, where known; null otherwise
 */
record DiskForm(@NotNull @Size(max = 200, message = "may have at most 200 characters") String name,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String model,
    @NotNull @Size(max = 300, message = "may have at most 300 characters") String serial,
    @Min(value = 1, message = "needs a size of more than 0") @Max(value = 1_000_000_000_000_000_000L,
        message = "is more than any disk holds") long sizeBytes,
    @Min(value = 0, message = "cannot be less than 0") @Schema(types = {
        "integer", "null"}) Long usedBytes){

    DiskIdentity identity() {
        return new DiskIdentity(model.strip(), serial.strip(), sizeBytes);
    }
}

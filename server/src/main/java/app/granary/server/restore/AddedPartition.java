package app.granary.server.restore;

import app.granary.core.layout.NewPartition;
import app.granary.core.target.Preparation.StoreFileSystem;
import app.granary.server.problem.Refused;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import java.util.Arrays;
import org.springframework.http.HttpStatus;

/**
 * A partition to make in what stays free.
 *
 * @param fileSystem "exfat", "ntfs" or "ext4"
 * @param bytes      0 for all that stays free
 */
record AddedPartition(@NotNull String name, @NotNull String fileSystem, @Min(0) long bytes) {
    NewPartition wanted() {
        return new NewPartition(name, Arrays.stream(StoreFileSystem.values()).filter(each -> each.word().equals(fileSystem)).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "added",
                "There is no file system \"" + fileSystem + "\". Choose exfat, ntfs or ext4.")), bytes);
    }
}

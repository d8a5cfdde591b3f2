package app.granary.server.capture;

import app.granary.core.plan.FolderPattern;
import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What a folder pattern comes to, while it is typed. */
@RestController
@RequestMapping("/api/v1/folders")
class FolderController {
    private final Folders folders;

    FolderController(Folders folders) {
        this.folders = folders;
    }

    /**
     * @param pattern an empty string for the office's choice
     * @param diskId  whose image it is an example for; the first disk on record when left out
     */
    @GetMapping("/example")
    Folders.Example example(@RequestParam(defaultValue = "") String pattern,
        @RequestParam(required = false) @Schema(types = {"string", "null"}) String diskId) {
        try {
            return folders.example(FolderPattern.parse(pattern), Optional.ofNullable(diskId));
        } catch (IOException refused) {
            throw Refused.badChoice("folder", refused);
        }
    }
}

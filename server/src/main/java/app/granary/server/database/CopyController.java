package app.granary.server.database;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.security.Principal;
import java.sql.SQLException;
import java.time.Instant;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Copies of Granary's own database, by hand. */
@RestController
@RequestMapping("/api/v1/database")
class CopyController {
    private final Copies copies;

    CopyController(Copies copies) {
        this.copies = copies;
    }

    /** @param newest when the newest copy was made; null while there is none */
    record CopyState(@Schema(types = {
        "string", "null"}) Instant newest, String sentence){
    }

    @GetMapping
    CopyState state() {
        return new CopyState(copies.newest().orElse(null), "");
    }

    @PostMapping("/copies")
    CopyState copy(Principal who) throws IOException, SQLException {
        Copies.Copy copy = copies.make(who.getName());
        return new CopyState(copies.newest().orElse(null), copy.sentence());
    }
}

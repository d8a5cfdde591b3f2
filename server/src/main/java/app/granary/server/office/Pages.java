package app.granary.server.office;

import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Every address of the single-page application is the same page; the browser's router does the rest. */
@Controller
class Pages {
    @GetMapping({"/", "/sign-in", "/first-day", "/today", "/computers", "/computers/**", "/make-image/**", "/import", "/destinations",
        "/plans", "/plans/**", "/night", "/office", "/outbox", "/simulated", "/runs", "/images",
        "/images/**", "/retention", "/restore", "/rollouts", "/rescue-media", "/rescue-media/**", "/prepare-drive", "/journal",
        "/journal/**", "/cards", "/cover", "/settings", "/accounts", "/invitation", "/labels/**"})
    String page() {
        return "forward:/index.html";
    }
}

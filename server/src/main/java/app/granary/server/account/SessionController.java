package app.granary.server.account;

import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import app.granary.server.problem.Refused;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Clock;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out. */
@RestController
@RequestMapping("/api/v1/session")
class SessionController {
    private final Accounts accounts;
    private final AuthenticationManager authentication;
    private final SecurityContextRepository contexts;
    private final SignInAttempts attempts;
    private final Journal journal;
    private final GranarySettings settings;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    SessionController(Accounts accounts, AuthenticationManager authentication, SecurityContextRepository contexts, SignInAttempts attempts,
        Journal journal,
        GranarySettings settings, ApplicationEventPublisher events, Clock clock) {
        this.events = events;
        this.accounts = accounts;
        this.authentication = authentication;
        this.contexts = contexts;
        this.attempts = attempts;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
    }

    /**
     * @param name       who is signed in; empty when nobody is
     * @param role       "technician" or "viewer"; empty when nobody is signed in
     * @param firstVisit whether there is no account yet
     * @param hint       in the demo, how to sign in; else empty
     */
    record Session(String name, String role, boolean firstVisit, String hint) {
    }

    record Credentials(@NotNull @Size(max = 60) String name, @NotNull @Size(max = 200) String password) {
        @Override
        public String toString() {
            return "credentials of " + name; // never the password
        }
    }

    /** @param word the one that was printed at the start, as part of the address */
    record FirstVisit(@NotNull @Size(max = 60) String name, @NotNull @Size(max = 200) String password,
        @NotNull @Size(max = 100) String word) {
        @Override
        public String toString() {
            return "first visit of " + name; // never the password
        }
    }

    @GetMapping
    Session session(Authentication who) {
        boolean signedIn = who != null && who.isAuthenticated();
        String role = !signedIn ? ""
            : who.getAuthorities().stream().anyMatch(a -> a.getAuthority().equals("ROLE_TECHNICIAN")) ? "technician" : "viewer";
        String hint = settings.demo() && !signedIn
            ? "This is the demo: sign in as " + Accounts.DEMO_NAME + " with " + Accounts.DEMO_PASSWORD
                + ", or as " + Accounts.DEMO_VIEWER + " with the same to only look."
            : "";
        return new Session(signedIn ? who.getName() : "", role, accounts.none(), hint);
    }

    @PostMapping
    Session signIn(@Valid @RequestBody Credentials credentials, HttpServletRequest request, HttpServletResponse response) {
        String address = request.getRemoteAddr();
        attempts.require(Names.look(credentials.name()), address);
        try {
            Authentication who = authentication
                .authenticate(UsernamePasswordAuthenticationToken.unauthenticated(credentials.name(), credentials.password()));
            attempts.succeeded(Names.look(credentials.name()), address);
            remember(who, request, response);
            journal.add(who.getName(), "signed in", who.getName(), Journal.Result.DONE, who.getName() + " signed in.");
            return session(who);
        } catch (AuthenticationException wrong) {
            throw new Refused(HttpStatus.UNAUTHORIZED, "sign-in-failed", "password",
                "Name and password do not match. Check both and try again.");
        }
    }

    private void remember(Authentication who, HttpServletRequest request, HttpServletResponse response) {
        if (request.getSession(false) != null) {
            request.changeSessionId(); // a session from before signing in must not carry over
        }
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(who);
        SecurityContextHolder.setContext(context);
        contexts.saveContext(context, request, response);
        request.getSession().setAttribute(StillSignedIn.SINCE, clock.instant());
    }

    @PostMapping("/first")
    @ResponseStatus(HttpStatus.CREATED)
    Session first(@Valid @RequestBody FirstVisit first, HttpServletRequest request, HttpServletResponse response) throws IOException {
        attempts.require("first visit", request.getRemoteAddr());
        accounts.createFirst(first.name(), first.password(), first.word());
        return signIn(new Credentials(first.name(), first.password()), request, response);
    }

    /** Whom a link invites. */
    record Invited(String name, String role) {
    }

    record Acceptance(@NotNull @Size(max = 100) String token, @NotNull @Size(max = 200) String password) {
    }

    @GetMapping("/invitation")
    Invited invitation(@RequestParam @Size(max = 100) String token) {
        return accounts.invitation(token).map(each -> new Invited(each.name(), each.role().word()))
            .orElseThrow(() -> new Refused(HttpStatus.NOT_FOUND, "not-found", "token",
                "This invitation was used, or is too old. Ask for a new one."));
    }

    @PostMapping("/invitation")
    @ResponseStatus(HttpStatus.CREATED)
    Session accept(@Valid @RequestBody Acceptance acceptance, HttpServletRequest request, HttpServletResponse response) throws IOException {
        String name = accounts.accept(acceptance.token(), acceptance.password());
        return signIn(new Credentials(name, acceptance.password()), request, response);
    }

    @DeleteMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        SecurityContextHolder.clearContext();
        HttpSession session = request.getSession(false);
        if (session != null) {
            String id = session.getId();
            session.invalidate();
            events.publishEvent(new SessionEnded(id));
        }
    }
}

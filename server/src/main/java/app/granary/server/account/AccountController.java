package app.granary.server.account;

import app.granary.server.problem.Refused;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Who may sign in; everyone's own password. */
@RestController
@RequestMapping("/api/v1")
class AccountController {
    /** Guessing the old password is counted apart from signing in; no name of an account has a space. */
    private static final String CHANGING = "old password of ";
    private final Accounts accounts;
    private final SignInAttempts attempts;
    private final Clock clock;

    AccountController(Accounts accounts, SignInAttempts attempts, Clock clock) {
        this.attempts = attempts;
        this.accounts = accounts;
        this.clock = clock;
    }

    /** @param closedAt null while it may sign in */
    record AccountLine(String name, String role, Instant createdAt, @Schema(types = {
        "string", "null"}) Instant closedAt){
    }

    record InvitationLine(String name, String role, Instant madeAt, String madeBy) {
    }

    record AccountPage(List<AccountLine> accounts, List<InvitationLine> invitations) {
    }

    /** @param path of the link, on this Granary; it is shown once */
    record InvitationMade(String name, String path) {
    }

    record InvitationForm(@NotNull @Size(max = 60, message = "may have at most 60 characters") String name, @NotNull String role) {
    }

    record AccountForm(@NotNull String role, boolean closed) {
    }

    record PasswordForm(@NotNull @Size(max = 200) String old, @NotNull @Size(max = 200) String password) {
        @Override
        public String toString() {
            return "a change of password"; // never the passwords
        }
    }

    @GetMapping("/accounts")
    AccountPage all() {
        return new AccountPage(
            accounts.all().stream().map(a -> new AccountLine(a.name(), a.role().word(), a.createdAt(), a.closedAt())).toList(),
            accounts.openInvitations().stream().map(i -> new InvitationLine(i.name(), i.role().word(), i.madeAt(), i.madeBy())).toList());
    }

    @PostMapping("/accounts/invitations")
    @ResponseStatus(HttpStatus.CREATED)
    InvitationMade invite(@Valid @RequestBody InvitationForm form, Principal who) throws IOException {
        return new InvitationMade(form.name, "/invitation?token=" + accounts.invite(form.name.strip(), role(form.role), who.getName()));
    }

    @PutMapping("/accounts/{name}")
    AccountPage change(@PathVariable String name, @Valid @RequestBody AccountForm form, Principal who) throws IOException {
        accounts.change(name, role(form.role), form.closed, who.getName());
        return all();
    }

    private static Role role(String word) {
        return Arrays.stream(Role.values()).filter(role -> role.word().equals(word)).findFirst()
            .orElseThrow(() -> new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "role",
                "\"" + word + "\" is none of the roles. Choose technician or viewer."));
    }

    /** This session goes on; all others of the account end. */
    @PostMapping("/account/password")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void password(@Valid @RequestBody PasswordForm form, Principal who, HttpServletRequest request) throws IOException {
        attempts.require(CHANGING + who.getName(), request.getRemoteAddr());
        accounts.changePassword(who.getName(), form.old, form.password);
        attempts.succeeded(CHANGING + who.getName(), request.getRemoteAddr());
        request.getSession().setAttribute(StillSignedIn.SINCE, clock.instant());
    }

    /** This one too. */
    @PostMapping("/account/sign-out-everywhere")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOutEverywhere(Principal who) throws IOException {
        accounts.signOutEverywhere(who.getName(), who.getName());
    }
}

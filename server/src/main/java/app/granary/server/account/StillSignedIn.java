package app.granary.server.account;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.time.Instant;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Ends a session whose account was closed, changed, or signed out everywhere since it began. */
final class StillSignedIn extends OncePerRequestFilter {
    static final String SINCE = "granary.signed-in-at";
    private final Accounts accounts;

    StillSignedIn(Accounts accounts) {
        this.accounts = accounts;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain) throws ServletException, IOException {
        HttpSession session = request.getSession(false);
        var who = SecurityContextHolder.getContext().getAuthentication();
        if (session != null && who != null && session.getAttribute(SINCE) instanceof Instant since && request.getRequestURI().startsWith("/api/") && !accounts.stillSignedIn(who.getName(), since)) {
            session.invalidate();
            SecurityContextHolder.clearContext();
        }
        chain.doFilter(request, response);
    }
}

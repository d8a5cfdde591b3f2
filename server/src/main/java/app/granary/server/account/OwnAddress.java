package app.granary.server.account;

import app.granary.server.problem.Problems;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.Locale;
import java.util.Set;
import org.springframework.http.HttpMethod;
import org.springframework.http.HttpStatus;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Answers only to the names this Granary goes by, and takes changes only from its own pages: a page elsewhere whose name is made to lead
 * here (DNS rebinding) sends its own name as the host.
 */
final class OwnAddress extends OncePerRequestFilter {
    private static final Set<String> READING = Set.of(HttpMethod.GET.name(), HttpMethod.HEAD.name());
    private final Set<String> names;
    private final Problems problems;

    /** @param names without ports, in lower case */
    OwnAddress(Set<String> names, Problems problems) {
        this.names = Set.copyOf(names);
        this.problems = problems;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
        String host = request.getHeader("Host");
        String origin = request.getHeader("Origin");
        if (host != null && !names.contains(name(host))) {
            problems.write(response, HttpStatus.FORBIDDEN, "other-address",
                "This Granary does not go by that address. Open the one it printed when it was started; another name for it is "
                    + "given at the start with --granary.hosts.");
        } else if (origin != null && !READING.contains(request.getMethod()) && !names.contains(ofOrigin(origin))) {
            problems.write(response, HttpStatus.FORBIDDEN, "other-page",
                "A page that is not Granary's own tried to change something. Nothing was changed.");
        } else {
            chain.doFilter(request, response);
        }
    }

    private static String name(String host) {
        return host.toLowerCase(Locale.ROOT).replaceFirst(":\\d+$", "");
    }

    private static String ofOrigin(String origin) {
        try {
            String authority = URI.create(origin).getRawAuthority();
            return authority == null ? "" : name(authority);
        } catch (IllegalArgumentException odd) {
            return "";
        }
    }
}

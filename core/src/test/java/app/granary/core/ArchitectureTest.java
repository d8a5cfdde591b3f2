package app.granary.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "app.granary.core", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
    @ArchTest
    static final ArchRule PLAIN_JAVA = classes().should().onlyDependOnClassesThat().resideInAnyPackage("app.granary.core..", "java..",
        "org.apache.commons.statistics..");

    @ArchTest
    static final ArchRule NO_CLOCK_NO_CHANCE_NO_FILES = noClasses().should().dependOnClassesThat().haveNameMatching(
        "java\\.nio\\.file\\..*|java\\.io\\.File.*|java\\.util\\.Random|java\\.util\\.concurrent\\.ThreadLocalRandom|java\\.time\\.Clock");

    @ArchTest
    static final ArchRule NO_CYCLES = slices().matching("app.granary.core.(*)..").should().beFreeOfCycles();
}

namespace Jexa.Service.Tests;

/// <summary>Audits of an application that a script draws, with a path for each page.</summary>
public sealed class PathBedTests(AuditService service) : BedTests(service), IClassFixture<AuditService>
{
    public static TheoryData<string, string, string> Faults { get; } = Half("paths", 0);

    [Theory]
    [InlineData("paths", "")]
    [InlineData("paths", "rows are clicked")]
    public Task A_right_application_has_no_finding_and_nothing_is_left_out(string bed, string fault) =>
        AssertRightAsync(bed, fault);

    [Theory]
    [MemberData(nameof(Faults))]
    public Task Each_fault_is_found(string bed, string fault, string code) => AssertFoundAsync(bed, fault, code);
}

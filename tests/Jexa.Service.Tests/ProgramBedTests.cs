namespace Jexa.Service.Tests;

/// <summary>Audits of an application in C#, of one in Python, and of one that is files.</summary>
public sealed class ProgramBedTests(AuditService service) : BedTests(service), IClassFixture<AuditService>
{
    public static TheoryData<string, string, string> Faults { get; } = Planted("csharp", "python", "files");

    [Theory]
    [InlineData("csharp", "")]
    [InlineData("python", "")]
    [InlineData("files", "")]
    public Task A_right_application_has_no_finding_and_nothing_is_left_out(string bed, string fault) =>
        AssertRightAsync(bed, fault);

    [Theory]
    [MemberData(nameof(Faults))]
    public Task Each_fault_is_found(string bed, string fault, string code) => AssertFoundAsync(bed, fault, code);
}

using System.Globalization;
using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Tests;

/// <summary>Numbers in forms, as a locale writes them.</summary>
public class NumberTextTests
{
    private static FormField Field(string locale, FieldType type = FieldType.Decimal) =>
        new(
            "n",
            "N",
            null,
            type == FieldType.Integer ? InputKind.Whole : InputKind.Number,
            type,
            new ColumnSchema("n", "", type, true, null, false, false),
            new Conventions(CultureInfo.GetCultureInfo(locale), null),
            FieldRules.None,
            [],
            false,
            -1,
            -1,
            "",
            false
        );

    [Theory]
    [InlineData("de-DE", "3,5", "3.5")]
    [InlineData("de-DE", "1.234,5", "1234.5")]
    [InlineData("de-DE", "1.500", "1500")]
    [InlineData("de-DE", "-0,25", "-0.25")]
    [InlineData("de-DE", "−7", "-7")]
    [InlineData("de-DE", " 12 ", "12")]
    [InlineData("en-GB", "3.5", "3.5")]
    [InlineData("en-GB", "1,234.5", "1234.5")]
    [InlineData("fr-FR", "1 234,5", "1234.5")]
    [InlineData("fr-FR", "1\u202f234,5", "1234.5")]
    [InlineData("de-CH", "1’234.5", "1234.5")]
    public void What_is_written_as_the_locale_writes_it_is_that_number(string locale, string typed, string plain) =>
        Assert.Equal((plain, null), NumberText.Read(Field(locale), typed));

    [Theory]
    [InlineData("de-DE", "1.5", "write one like 3,5")]
    [InlineData("de-DE", "12.34", "write one like 3,5")]
    [InlineData("fr-FR", "1.5", "write one like 3,5")]
    public void What_could_be_meant_otherwise_is_a_fault_with_an_example(string locale, string typed, string said) =>
        Assert.Contains(said, NumberText.Read(Field(locale), typed).Fault, StringComparison.Ordinal);

    [Theory]
    [InlineData("de-DE", "abc")]
    [InlineData("de-DE", "1,2,3")]
    [InlineData("en-GB", "1,23")]
    [InlineData("en-GB", "3,5")]
    [InlineData("en-GB", "")]
    public void What_is_no_number_is_left_to_the_rules_of_the_field(string locale, string typed)
    {
        var (text, fault) = NumberText.Read(Field(locale), typed);
        Assert.Equal((typed, null), (text, fault));
        if (typed.Length > 0)
            Assert.NotNull(FieldReader.Read(Field(locale), text).Fault);
    }

    [Theory]
    [InlineData("de-DE")]
    [InlineData("fr-FR")]
    [InlineData("en-GB")]
    [InlineData("de-CH")]
    public void Every_number_that_an_input_shows_is_read_back_as_it_was(string locale)
    {
        foreach (var plain in new[] { "0", "-1", "3.5", "1234.5", "1234567", "0.001", "-99999.99", "1E+20", "1.5E-07" })
            Assert.Equal((plain, null), NumberText.Read(Field(locale), NumberText.Shown(Field(locale), plain)));
    }

    [Fact]
    public void Whole_numbers_may_have_groups_and_texts_are_left_alone()
    {
        Assert.Equal(("12345", null), NumberText.Read(Field("de-DE", FieldType.Integer), "12.345"));
        Assert.Equal(("1.234,5", null), NumberText.Read(Field("de-DE") with { Input = InputKind.Text }, "1.234,5"));
    }
}

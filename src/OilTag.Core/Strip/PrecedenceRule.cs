namespace OilTag.Core.Strip;

/// <summary>Reads and checks what had to be off first.</summary>
public static class PrecedenceRule
{
    /// <summary>Tag numbers in a typed list such as "131, 133"; a problem when something in it is not a number.</summary>
    public static (IReadOnlyList<int> Numbers, Problem? Problem) ReadNumbers(string? text)
    {
        var numbers = new List<int>();
        foreach (var word in (text ?? string.Empty).Split([' ', ',', ';', '\n', '\r', '\t'], StringSplitOptions.RemoveEmptyEntries))
        {
            if (!int.TryParse(word, System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var n) || n < 1)
            {
                return ([], new Problem("First", $"“{(word.Length > 20 ? word[..20] + "…" : word)}” is not a tag number. Type the numbers with commas, such as 131, 133."));
            }

            if (!numbers.Contains(n))
            {
                numbers.Add(n);
            }
        }

        return numbers.Count > 30 ? ([], new Problem("First", "Thirty numbers fit here.")) : (numbers, null);
    }

    /// <summary>True when saying that <paramref name="first"/> comes off before <paramref name="then"/> would close a circle.</summary>
    /// <param name="first">Slot that had to be off first.</param>
    /// <param name="then">Slot that it freed.</param>
    /// <param name="known">What is known already, first before then.</param>
    public static bool ClosesCircle(Guid first, Guid then, IEnumerable<(Guid First, Guid Then)> known)
    {
        var next = known.ToLookup(k => k.First, k => k.Then);
        var open = new Stack<Guid>([then]);
        var seen = new HashSet<Guid>();
        while (open.TryPop(out var at))
        {
            if (at == first)
            {
                return true;
            }

            if (seen.Add(at))
            {
                foreach (var n in next[at])
                {
                    open.Push(n);
                }
            }
        }

        return false;
    }
}

using Npgsql;

namespace OilTag.Data.Setup;

/// <summary>Tells a full disk from other troubles.</summary>
public static class FullDisk
{
    public const string Sentence = "The disk of the machine that runs Oil Tag is full, so nothing was recorded. Tell the keeper. What you typed is still here; a photo or file is chosen again.";

    /// <summary>ENOSPC and EDQUOT, as the system numbers them.</summary>
    private static readonly HashSet<int> Codes = [28, 122];

    /// <summary>True when a file or the database could not be written because there is no room left.</summary>
    public static bool Is(Exception? e)
    {
        for (; e is not null; e = e.InnerException)
        {
            if ((e is IOException io && Codes.Contains(io.HResult)) || e is PostgresException { SqlState: PostgresErrorCodes.DiskFull })
            {
                return true;
            }
        }

        return false;
    }
}
